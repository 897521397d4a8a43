import { autoLevels, autoWhite, matchTo, pictureEffect, type FoundEffect } from '@dusk/compositor'
import { clipEnd, FramePlanner, type Clip, type Effect, type SingleInput } from '@dusk/timeline'
import { usePlayer, usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { useNotices } from '~/features/ui/noticesStore'
import { useEffects } from './effectsStore'
import { useSampling } from './useSampling'

/** What was set, in words. */
export function wordsOf({ kind: id, settings }: FoundEffect): string {
  const kind = pictureEffect(id)
  const parts = Object.entries(settings).flatMap(([key, value]) => {
    const param = kind?.params.find((entry) => entry.key === key)
    if (!param || value === param.default || typeof value === 'object') return []
    const number = typeof value === 'number' ? `${Math.round(value * 100) / 100}`.replace('-', '−') : String(value)
    const unit = param.kind === 'number' && param.unit ? ` ${param.unit}` : ''
    return [`${param.label.toLowerCase()} ${number}${unit}`]
  })
  // Wheels and curves are places, not numbers.
  const placed = Object.entries(settings).filter(([, value]) => typeof value === 'object')
  const labels = placed.map(([key]) => kind?.params.find((entry) => entry.key === key)?.label.toLowerCase() ?? key)
  const said = [...parts, ...labels]
  return `${kind?.name ?? id}: ${said.length > 0 ? said.join(', ') : 'nothing had to be changed'}`
}

/** One click each for light, colour and noise of a shot, and for making it like another; all as ordinary effects. */
export function useQuickFix() {
  const project = useProject()
  const player = usePlayer()
  const playhead = usePlayhead()
  const notices = useNotices()
  const effects = useEffects()
  const sampling = useSampling()

  const stackOf = (clip: Clip): Effect[] =>
    Object.values(project.document?.effects ?? {}).filter(
      ({ ownerId, domain }) => ownerId === clip.id && domain === 'picture',
    )
  const within = (clip: Clip, tick: number) => tick >= clip.start && tick < clipEnd(clip)
  /** Where a shot is looked at: under the playhead, or in its middle. */
  const momentOf = (clip: Clip) =>
    within(clip, playhead.now()) ? playhead.now() : clip.start + Math.floor(clip.length / 2)

  /** Whether the reel shows a picture of its own at a place: titles and adjustments are nothing to look like. */
  function showsPicture(tick: number): boolean {
    const { document, reelId } = project
    if (!document) return false
    return new FramePlanner(document, reelId)
      .clipsAt(tick)
      .some(({ kind }) => kind === 'media' || kind === 'reel' || kind === 'generator')
  }

  /** Puts what was found in place of an earlier find of the same kinds, and shows before beside after. */
  function put(clip: Clip, found: readonly FoundEffect[], words: string, none: string): void {
    const telling = found.filter(({ settings }) => Object.keys(settings).length > 0)
    if (telling.length === 0) return notices.say(none)
    const old = stackOf(clip)
    const commands = telling.map(({ kind, settings }): SingleInput => {
      const same = old.find((effect) => effect.kind === kind && !effect.mask)
      if (same) return { type: 'setEffects', effectIds: [same.id], set: { settings: settings as never } }
      const effects = [{ domain: 'picture' as const, kind, settings, strength: 100 }]
      return { type: 'addEffects', owner: 'clip', ownerIds: [clip.id], effects }
    })
    if (!project.performAll(commands, `Quick fix: ${words.replace(/\.$/, '').toLowerCase()}`)) return
    if (!within(clip, playhead.now())) player.seek(momentOf(clip))
    effects.bareTo = 0.5
    notices.say(`${words} ${telling.map(wordsOf).join('; ')}. The line on the picture divides before from after.`)
  }

  /** A shot's own picture without what a fix of these kinds put there. */
  async function pictureOf(clip: Clip, kinds: readonly string[]): Promise<Uint8ClampedArray | null> {
    const without = stackOf(clip).filter(({ kind }) => kinds.includes(kind))
    const image = await sampling.pixelsAt(
      momentOf(clip),
      without.map(({ id }) => id),
      clip.trackId,
    )
    if (!image) notices.warn('The picture is not there yet. Wait for it, or pause, and try again.')
    return image?.data ?? null
  }

  async function light(clip: Clip): Promise<void> {
    const pixels = await pictureOf(clip, ['levels'])
    if (pixels) put(clip, [autoLevels(pixels)], 'Light evened out.', 'Its light is even already.')
  }
  async function colour(clip: Clip): Promise<void> {
    const pixels = await pictureOf(clip, ['balance'])
    const none = 'Nothing grey says what the light was: the colours stay. Pick a grey place in Colour to go by.'
    if (pixels) put(clip, [autoWhite(pixels)], 'Colour cast taken out.', none)
  }
  function noise(clip: Clip): void {
    put(clip, [{ kind: 'calmNoise', settings: { amount: 80, level: 35 } }], 'Noise calmed.', '')
  }
  /** Makes a shot look like what lies under the playhead. */
  async function match(clip: Clip): Promise<void> {
    const tick = playhead.now()
    if (within(clip, tick))
      return notices.say('Put the playhead on the shot it should look like, keep this one selected, and press again.')
    if (!showsPicture(tick))
      return notices.say('There is no picture under the playhead: put it on the shot that this one should look like.')
    const [own, wanted] = [await pictureOf(clip, ['tone', 'balance', 'wheels']), await sampling.pixelsAt(tick)]
    if (!own || !wanted) return
    put(clip, matchTo(own, wanted.data), 'Matched.', 'It looks like that already.')
  }
  return { light, colour, noise, match }
}
