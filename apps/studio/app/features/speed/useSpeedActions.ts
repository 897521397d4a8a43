import { clipEnd, clipsOn, formatSeconds, type Clip, type CommandInput } from '@dusk/timeline'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'

type SetSpeed = Extract<CommandInput, { type: 'setSpeed' }>

/** What can be done to the speed of the selected clips. */
export function useSpeedActions() {
  const project = useProject()
  const desk = useDesk()
  const playhead = usePlayhead()
  const notices = useNotices()

  /** Selected clips that have a speed; of a linked pair its picture. */
  function selected(): Clip[] {
    const clips = [...desk.selection]
      .map((id) => project.document?.clips[id])
      .filter((clip): clip is Clip => !!clip && (clip.kind === 'media' || clip.kind === 'reel'))
    const led = new Set(clips.filter((clip) => clip.stream === null && clip.link).map((clip) => clip.link))
    return clips.filter((clip) => clip.stream === null || !clip.link || !led.has(clip.link) || !desk.linked)
  }

  function set(more: Partial<SetSpeed>, clips = selected()): boolean {
    if (clips.length === 0) {
      notices.say('Select footage or a sound first.')
      return false
    }
    return project.perform({
      type: 'setSpeed',
      clipIds: clips.map((clip) => clip.id),
      scope: desk.scope,
      linked: desk.linked,
      ...more,
    })
  }

  const speedOf = (clip: Clip) => (clip.map.kind === 'constant' ? clip.map.speed : null)

  /** Twice or half as fast, each by itself, in one step where they have one speed. */
  function multiply(by: number): void {
    const [first] = selected()
    const now = first && speedOf(first)
    if (now === undefined || now === null) return notices.say('Select a clip with one speed all along.')
    set({ speed: Math.sign(now) * Math.min(100, Math.max(0.05, Math.abs(now) * by)) })
  }

  /** Slower or faster, so that a clip just fills the gap that begins with it. */
  function fitGap(): void {
    const clip = selected()[0]
    if (!clip) return notices.say('Select the clip that is to fill the gap behind it.')
    const next = clipsOn(project.document!, clip.trackId).find((other) => other.start >= clipEnd(clip))
    const to = next?.start ?? desk.range?.to ?? playhead.now()
    if (to <= clip.start || to === clipEnd(clip)) return notices.say('There is no gap behind this clip.')
    const wanted = to - clip.start
    if (set({ length: wanted, room: 'keep' }, [clip])) notices.say(`Plays for ${formatSeconds(wanted)} now.`)
  }

  /** Cuts the marked range out of the selected clip and sets its speed alone. */
  function partOnly(speed: number): void {
    const clip = selected()[0]
    const range = desk.range
    if (!clip || !range) return notices.say('Select a clip and mark the part of it with I and O first.')
    const [from, to] = [Math.max(range.from, clip.start), Math.min(range.to, clipEnd(clip))]
    if (to <= from) return notices.say('The marked range lies beside this clip.')
    project.perform({ type: 'setPartSpeed', clipId: clip.id, from, to, speed, scope: desk.scope, linked: desk.linked })
  }

  return { selected, set, speedOf, multiply, fitGap, partOnly }
}
