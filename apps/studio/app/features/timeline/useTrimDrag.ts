import {
  clipEnd,
  clipSourceRange,
  formatSeconds,
  formatTimecode,
  rollLimits,
  slideLimits,
  slipLimits,
  snapToFrame,
  snapToSample,
  sourceTimeAt,
  TICKS_PER_SECOND,
  ticksPerFrame,
  trimLimits,
  trimRefusal,
  type Clip,
  type CommandInput,
  type Project,
} from '@dusk/timeline'
import { snapTargets, type SnapTarget } from './snapping'
import { useDesk } from './deskStore'
import { useProject } from '~/features/project/projectStore'
import { refusalOf, trialEdit, tried } from '~/features/project/tried'
import type { DragSession } from './useDragSession'
import { usePlayer, usePlayhead } from '~/features/player/usePlayhead'

const signed = (ticks: number) => `${ticks < 0 ? '−' : '+'}${formatSeconds(Math.abs(ticks))}`

/**
 * Drags that change what a clip shows: trimming, rolling, slipping, sliding. Both sides of the cut are shown
 * meanwhile.
 */
export function useTrimDrag(session: DragSession) {
  const project = useProject()
  const desk = useDesk()
  const player = usePlayer()
  const playhead = usePlayhead()
  const { changed, label, snapLine, local, stick, follow } = session

  /** Tries a command out; the clips it changes are drawn so, and the new document comes back. */
  function tryOut(document: Project, input: CommandInput): Project | null {
    const outcome = tried(document, input)
    changed.value = new Map(
      outcome?.changes.flatMap((change) =>
        change.kind === 'clips' && change.after ? [[change.id, change.after as Clip]] : [],
      ),
    )
    return outcome?.project ?? null
  }

  /** Says beside the pointer what a drag would do, or why it would be refused: before it is let go as after. */
  function tell(words: string, at: { x: number; y: number }, done: Project | null, input: CommandInput): void {
    const refusal = done ? null : refusalOf(project.document!, input)
    label.value = { words: refusal ?? words, bad: refusal !== null, ...at }
  }

  /** The pointer's place, and the tick that is wanted of what it took hold of `offset` ticks away. */
  function under(event: PointerEvent, offset: number, targets: readonly SnapTarget[]) {
    const at = local(event)
    const tick = desk.toTick(at.x) + offset
    return { at, wanted: tick + stick([tick], targets, event) }
  }

  const isPicture = (clip: Clip) => project.document!.tracks[clip.trackId]!.kind === 'picture'
  const snapFor = (clip: Clip, tick: number) =>
    isPicture(clip) ? snapToFrame(tick, project.reel!.format.rate) : snapToSample(tick)
  const frame = () => Math.round(ticksPerFrame(project.reel!.format.rate))

  function trimEdge(down: PointerEvent, clip: Clip, edge: 'start' | 'end', mode: 'plain' | 'ripple'): void {
    const document = project.document!
    const { rate } = project.reel!.format
    const limits = trimLimits(trialEdit(document), clip, edge, mode)
    const targets = snapTargets(document, project.reelId, new Set([clip.id]), playhead.now())
    const origin = edge === 'start' ? clip.start : clipEnd(clip)
    const offset = origin - desk.toTick(local(down).x)
    let to = origin
    const command = (): CommandInput => ({
      type: 'trim',
      clipId: clip.id,
      edge,
      to,
      mode,
      scope: desk.scope,
      linked: desk.linked,
    })
    follow(
      down,
      (event) => {
        const { at, wanted } = under(event, offset, targets)
        const grid = snapFor(clip, wanted)
        to = Math.min(Math.max(grid, limits.min), limits.max)
        if (grid !== to) snapLine.value = null
        const next = tryOut(document, command())
        const longer = edge === 'end' ? to - origin : origin - to
        const stop = grid !== to ? `. ${trimRefusal(trialEdit(document), clip, edge, grid, limits)}` : ''
        const moved = mode === 'ripple' ? `, later clips move ${signed(longer)}` : ''
        tell(`${formatTimecode(to, rate)}, ${signed(longer)}${moved}${stop}`, at, next, command())
        const place = mode === 'ripple' && edge === 'start' ? clip.start : to
        if (next) player.splitView(next, project.reelId, [place - frame(), place])
      },
      () => void (to !== origin && project.perform(command())),
    )
  }

  /** Makes a clip play slower or faster by dragging an edge; the other edge stays. */
  function stretchEdge(down: PointerEvent, clip: Clip, edge: 'start' | 'end'): void {
    const document = project.document!
    const targets = snapTargets(document, project.reelId, new Set([clip.id]), playhead.now())
    const origin = edge === 'start' ? clip.start : clipEnd(clip)
    const offset = origin - desk.toTick(local(down).x)
    const { from, to: last } = clipSourceRange(clip)
    let length = clip.length
    const command = (): CommandInput => ({
      type: 'setSpeed',
      clipIds: [clip.id],
      length,
      anchor: edge === 'start' ? 'end' : 'start',
      room: 'keep',
      scope: desk.scope,
      linked: desk.linked,
    })
    follow(
      down,
      (event) => {
        const { at, wanted } = under(event, offset, targets)
        const place = snapFor(clip, wanted)
        length = Math.max(frame(), edge === 'end' ? place - clip.start : clipEnd(clip) - place)
        const next = tryOut(document, command())
        const held = next?.clips[clip.id]?.length ?? length
        const speed = `${Math.round(((last - from) / held) * 100)} %`
        const words = next ? `${speed}, ${formatSeconds(held)}` : 'no further: 5 % to 10,000 % of its speed'
        label.value = { words, bad: !next, ...at }
        if (next) player.splitView(next, project.reelId, [clip.start, clip.start + held - frame()])
      },
      () => void (length !== clip.length && project.perform(command())),
    )
  }

  /** Rolls the cut at an edge of a clip; an edge that touches nothing is trimmed. */
  function rollEdge(down: PointerEvent, clip: Clip, edge: 'start' | 'end'): void {
    const document = project.document!
    const lane = Object.values(document.clips).filter((other) => other.trackId === clip.trackId)
    const other = lane.find((entry) =>
      edge === 'start' ? clipEnd(entry) === clip.start : entry.start === clipEnd(clip),
    )
    if (!other) return trimEdge(down, clip, edge, 'plain')
    const [left, right] = edge === 'start' ? [other, clip] : [clip, other]
    const { rate } = project.reel!.format
    const limits = rollLimits(trialEdit(document), left, right)
    const targets = snapTargets(document, project.reelId, new Set([left.id, right.id]), playhead.now())
    const offset = right.start - desk.toTick(local(down).x)
    let to = right.start
    const command = (): CommandInput => ({ type: 'roll', leftId: left.id, rightId: right.id, to, linked: desk.linked })
    follow(
      down,
      (event) => {
        const { at, wanted } = under(event, offset, targets)
        to = Math.min(Math.max(snapFor(clip, wanted), limits.min), limits.max)
        const next = tryOut(document, command())
        tell(`cut at ${formatTimecode(to, rate)}, ${signed(to - right.start)}`, at, next, command())
        if (next) player.splitView(next, project.reelId, [to - frame(), to])
      },
      () => void (to !== right.start && project.perform(command())),
    )
  }

  /**
   * Slips the footage under a clip: to the right shows what came before. Says where in the source it begins and
   * ends.
   */
  function slip(down: PointerEvent, clip: Clip): void {
    const document = project.document!
    const { rate } = project.reel!.format
    const limits = slipLimits(trialEdit(document), clip)
    const begin = sourceTimeAt(clip, clip.start)
    let by = 0
    const command = (): CommandInput => ({ type: 'slip', clipIds: [clip.id], by, linked: desk.linked })
    follow(
      down,
      (event) => {
        const at = local(event)
        const wanted = -((event.clientX - down.clientX) / desk.pixelsPerSecond) * TICKS_PER_SECOND
        const grid = snapFor(clip, Math.min(Math.max(wanted, limits.min), limits.max))
        // Rounding to the grid must not lead past the footage.
        by = grid < limits.min ? grid + frame() : grid > limits.max ? grid - frame() : grid
        const next = tryOut(document, command())
        const held = [begin + by, begin + by + clip.length].map((tick) => formatTimecode(Math.max(0, tick), rate))
        const left = [begin + by, limits.max - by].map((tick) => formatSeconds(Math.max(0, tick)))
        const room = Number.isFinite(limits.max) ? `, ${left[0]} before, ${left[1]} after` : ''
        tell(`source ${held[0]} → ${held[1]}${room}`, at, next, command())
        if (next) player.splitView(next, project.reelId, [clip.start, clipEnd(clip) - frame()])
      },
      () => void (by !== 0 && project.perform(command())),
    )
  }

  /** Slides a clip between its neighbours, which give and take. */
  function slide(down: PointerEvent, clip: Clip): void {
    const document = project.document!
    const { rate } = project.reel!.format
    const limits = slideLimits(trialEdit(document), clip)
    const targets = snapTargets(document, project.reelId, new Set([clip.id]), playhead.now())
    let by = 0
    const command = (): CommandInput => ({ type: 'slide', clipId: clip.id, by, linked: desk.linked })
    follow(
      down,
      (event) => {
        const at = local(event)
        let wanted = Math.round(((event.clientX - down.clientX) / desk.pixelsPerSecond) * TICKS_PER_SECOND)
        wanted += stick([clip.start + wanted, clipEnd(clip) + wanted], targets, event)
        by = Math.min(Math.max(snapFor(clip, clip.start + wanted) - clip.start, limits.min), limits.max)
        const next = tryOut(document, command())
        tell(`slide ${signed(by)}, begins ${formatTimecode(clip.start + by, rate)}`, at, next, command())
        if (next)
          player.splitView(next, project.reelId, [
            clip.start + by - frame(),
            clip.start + by,
            clipEnd(clip) + by - frame(),
            clipEnd(clip) + by,
          ])
      },
      () => void (by !== 0 && project.perform(command())),
    )
  }

  return { trimEdge, stretchEdge, rollEdge, slip, slide }
}
