import {
  clipEnd,
  formatSeconds,
  frameToTicks,
  snapToFrame,
  sourceTimeAt,
  ticksPerFrame,
  type Asset,
  type Clip,
  type CommandInput,
} from '@dusk/timeline'
import { useAim } from '~/features/timeline/aimStore'
import { layOut, partOfReel, planPlace, type Destination, type Part } from '~/features/timeline/drop'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import { useSource } from '~/features/player/sourceStore'
import { usePlayer, usePlayhead } from '~/features/player/usePlayhead'
import { useSelection } from '~/features/timeline/useSelection'

/** Watching sources, marking parts of them, and putting them into the reel. */
export function useSourceActions() {
  const project = useProject()
  const desk = useDesk()
  const aim = useAim()
  const source = useSource()
  const notices = useNotices()
  const player = usePlayer()
  const playhead = usePlayhead()
  const { rate, length, rows, selected, theClip } = useSelection()

  /** Opens a source in the viewer, at a source time when one is given. */
  function openSource(assetId: string, at: number | null = null): void {
    player.pause()
    source.open(assetId, playhead.now(), player.place())
    if (at !== null) source.startAt = at
  }

  /** Opens the source of a clip where the clip shows it; `false` when nothing can be watched of it. */
  function openSourceOf(clip: Clip): boolean {
    if (clip.kind === 'reel') {
      project.reelId = clip.nestedId
      return true
    }
    if (clip.kind !== 'media') return false
    const at = Math.min(Math.max(playhead.now(), clip.start), clipEnd(clip) - 1)
    openSource(clip.assetId, sourceTimeAt(clip, at))
    source.from = sourceTimeAt(clip, clip.start)
    source.to = sourceTimeAt(clip, clipEnd(clip))
    return true
  }

  function closeSource(): void {
    if (!source.assetId) return
    player.pause()
    source.close(player.place())
  }

  /** Marks in the source that is open, else in the reel. */
  function mark(edge: 'in' | 'out'): void {
    // The out mark keeps the frame that is shown: the part ends behind it.
    if (source.assetId) source.mark(edge, player.place() + (edge === 'out' ? ticksPerFrame(source.reel!.rate) : 0))
    else {
      const at = playhead.now()
      desk.markRange(edge, edge === 'out' ? snapToFrame(at + ticksPerFrame(rate()), rate()) : at, length())
    }
  }

  function clearMarks(): void {
    if (source.assetId) source.from = source.to = null
    else desk.range = null
  }

  function keepPick(): void {
    const { asset, range } = source
    if (!asset) return notices.say('Open a source and mark a part of it first.')
    const name = `Part ${source.subclips.length + 1}`
    project.perform({ type: 'addSubclip', subclip: { id: crypto.randomUUID(), assetId: asset.id, name, ...range } })
  }

  /**
   * The part to place and where: three points decide. A marked range of the reel gives the place, and the length too
   * where the source's end is not marked; where only its end is, the part is as long as the range and ends there.
   */
  function threePoints(asset: Asset): { part: Part; start: number } {
    const open = source.asset?.id === asset.id
    const range = desk.range
    if (open && range && source.from === null && source.to !== null) {
      const from = Math.max(0, source.to - (range.to - range.from))
      return {
        part: { asset, from, length: source.to - from, use: source.parts },
        start: range.to - (source.to - from),
      }
    }
    const from = open ? source.range.from : 0
    const given = open && source.to !== null ? source.to - from : null
    const whole = asset.kind === 'still' ? undefined : asset.length - from
    const room = range ? range.to - range.from : undefined
    const long = given ?? (room === undefined ? whole : Math.min(room, whole ?? room))
    const start = range?.from ?? playhead.now()
    return { part: { asset, from, length: long, use: open ? source.parts : 'both' }, start }
  }

  /** What is aimed at goes before what is selected: the tracks of the picture and of the sound among that. */
  function whereTo(how: string): Destination {
    const tracks = selected().map((clip) => project.document!.tracks[clip.trackId]!)
    const open = (kind: string) =>
      how === 'stack'
        ? null
        : tracks.find((track) => track.kind === kind && track.reelId === project.reelId && !track.locked)
    const { picture, sound } = aim.destination()
    return { picture: picture ?? open('picture'), sound: sound ?? open('sound') }
  }

  /** Puts the open source, or the ones given, into the reel. */
  function use(how: 'insert' | 'over' | 'append' | 'stack', asset = source.asset): void {
    const document = project.document
    if (!document || !asset) return notices.say('Open a source first: double-click one in the library.')
    const { part, start } = threePoints(asset)
    const laid = layOut(document, rows(), [part], { ...whereTo(how), room: how === 'stack' }, start)
    if (typeof laid === 'string') return notices.warn(laid)
    const { pieces } = laid
    const command: CommandInput =
      how === 'append'
        ? { type: 'append', pieces }
        : how === 'stack'
          ? { type: 'stackAbove', pieces }
          : { type: 'place', pieces, mode: how }
    if (!project.perform(command)) return
    const placed = project.document?.clips[pieces[0]!.clipId]
    if (placed) {
      desk.select([placed.id], project.document)
      // The next one goes behind this one.
      if (source.assetId) source.parked = clipEnd(placed)
      else playhead.goTo(clipEnd(placed))
    }
  }

  function replace(asset = source.asset): void {
    const clip = selected()[0]
    if (!asset || !clip) return notices.say('Select the clip to replace, and open the source for it.')
    const from = source.asset?.id === asset.id ? source.range.from : 0
    const old = theClip()!
    const change = (short: 'shorten' | 'slow' | 'hold') =>
      void project.perform({
        type: 'replace',
        clipId: old.id,
        assetId: asset.id,
        source: from,
        short,
        linked: desk.linked,
      })
    const missing = asset.kind === 'still' ? 0 : old.length - (asset.length - from)
    // Less than a frame short is not worth a question.
    if (missing < ticksPerFrame(rate())) return change('shorten')
    if (asset.length <= from) return notices.warn(`${asset.name} ends before that part begins.`)
    const [has, takes] = [asset.length - from, old.length].map((length) => formatSeconds(length))
    const lasts = `${asset.name} has ${has} from there, the clip ${takes}.`
    notices.say(
      lasts,
      'warning',
      { label: 'Shorten the clip', run: () => change('shorten') },
      { label: 'Play it slower', run: () => change('slow') },
      ...(asset.picture ? [{ label: 'Hold its last frame', run: () => change('hold') }] : []),
    )
  }

  /** What of a source goes into the reel: of the one that is open what is marked, of others all. */
  function partOf(asset: Asset): Part {
    if (source.asset?.id !== asset.id || asset.kind === 'still') return { asset }
    const { from, to } = source.range
    return { asset, from, length: to - from, use: source.parts }
  }

  /** Lays sources behind each other at the end of the reel; sounds alone go where the playhead is. */
  function addToEnd(assetIds: readonly string[]): void {
    const document = project.document
    const assets = assetIds.flatMap((id) => document?.assets[id] ?? [])
    if (!document || assets.length === 0) return
    const at = assets.every((asset) => asset.kind === 'sound') ? playhead.now() : length()
    const plan = planPlace(document, rows(), assets.map(partOf), aim.destination(), at, false)
    if (plan.command) project.perform(plan.command)
    else notices.warn(plan.words)
  }

  /** Has another reel play at the end of this one. */
  function addReelToEnd(reelId: string): void {
    const document = project.document
    if (!document) return
    const part = partOfReel(document, reelId, project.reelId)
    if (typeof part === 'string') return notices.warn(part)
    const plan = planPlace(document, rows(), [part], aim.destination(), length(), false)
    if (plan.command) project.perform(plan.command)
    else notices.warn(plan.words)
  }

  /** Lays stills behind the last clip, each for as many frames of the reel: a run of pictures becomes stop motion. */
  function addRun(assets: readonly Asset[], frames: number): void {
    const document = project.document
    if (!document) return
    const parts = assets.map((asset) => ({ asset, length: frameToTicks(frames, rate()) }))
    const laid = layOut(document, rows(), parts, aim.destination(), 0)
    if (typeof laid === 'string') return notices.warn(laid)
    if (project.perform({ type: 'append', pieces: laid.pieces }))
      desk.select(
        laid.pieces.map((piece) => piece.clipId),
        project.document,
      )
  }

  return {
    openSource,
    openSourceOf,
    closeSource,
    mark,
    clearMarks,
    keepPick,
    use,
    replace,
    addToEnd,
    addReelToEnd,
    addRun,
  }
}
