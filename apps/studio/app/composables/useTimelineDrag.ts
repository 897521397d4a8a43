import { ref, shallowRef, type Ref } from 'vue'
import {
  applyCommand,
  clipEnd,
  CommandRefused,
  commandSchema,
  Edit,
  formatSeconds,
  formatTimecode,
  snapToFrame,
  snapToSample,
  TICKS_PER_SECOND,
  trimLimits,
  withLinked,
  type Clip,
} from '@dusk/timeline'
import { planMove, type DropPlan, type GhostClip } from '~/lib/timeline/drop'
import { rowAt, type Row } from '~/lib/timeline/layout'
import { snapBy, snapTargets, type SnapTarget } from '~/lib/timeline/snapping'
import { useDesk } from '~/stores/desk'
import { useNotices } from '~/stores/notices'
import { useProject } from '~/stores/project'
import { usePlayer } from './useDeskActions'

/** Pixels within which a drag sticks, and from an edge within which it is the edge that is meant. */
const STICK = 8
export const EDGE = 7
/** Pixels the pointer may wander before a press is a drag. */
const SLACK = 3
const TRIAL = '00000000-0000-4000-8000-000000000000'

/** What is going on under the pointer. */
export interface Dragging {
  words: string
  bad: boolean
  x: number
  y: number
}

/** Drags on the timeline: moving clips, trimming edges, rubber band. Escape gives up; letting go is one command. */
export function useTimelineDrag(body: Ref<HTMLElement | null>, rows: Ref<Row[]>) {
  const project = useProject()
  const desk = useDesk()
  const notices = useNotices()
  const player = usePlayer()
  const ghosts = shallowRef<readonly GhostClip[]>([])
  const bad = ref(false)
  const lifted = shallowRef<ReadonlySet<string>>(new Set())
  const changed = shallowRef<ReadonlyMap<string, Clip>>(new Map())
  const band = shallowRef<{ x0: number; y0: number; x1: number; y1: number } | null>(null)
  const label = shallowRef<Dragging | null>(null)
  const snapLine = shallowRef<SnapTarget | null>(null)

  function clear(): void {
    ghosts.value = []
    bad.value = false
    lifted.value = new Set()
    changed.value = new Map()
    band.value = null
    label.value = null
    snapLine.value = null
  }

  const local = (event: PointerEvent | MouseEvent) => {
    const box = body.value!.getBoundingClientRect()
    return { x: event.clientX - box.left, y: event.clientY - box.top }
  }

  /** How far to move so that an edge sticks, if sticking is on. */
  function stick(edges: readonly number[], targets: readonly SnapTarget[], event: { ctrlKey: boolean }): number {
    snapLine.value = null
    if (desk.snap === event.ctrlKey) return 0
    const found = snapBy(edges, targets, (STICK / desk.pixelsPerSecond) * TICKS_PER_SECOND)
    snapLine.value = found?.target ?? null
    return found?.by ?? 0
  }

  /** Follows the pointer until it is let go; scrolls at the edges, gives up on Escape. */
  function follow(down: PointerEvent, move: (event: PointerEvent) => void, done: (event: PointerEvent) => void): void {
    const target = body.value!
    target.setPointerCapture(down.pointerId)
    let last = down
    let begun = false
    const scroll = setInterval(() => {
      if (!begun) return
      const { x } = local(last)
      const over = x < 24 ? x - 24 : x > desk.timelineWidth - 24 ? x - desk.timelineWidth + 24 : 0
      if (over === 0) return
      desk.scroll = Math.max(
        0,
        desk.scroll + Math.round((Math.max(-60, Math.min(60, over)) / desk.pixelsPerSecond) * TICKS_PER_SECOND * 0.4),
      )
      move(last)
    }, 30)
    const onMove = (event: PointerEvent) => {
      if (!begun && Math.hypot(event.clientX - down.clientX, event.clientY - down.clientY) < SLACK) return
      begun = true
      last = event
      move(event)
    }
    const end = () => {
      clearInterval(scroll)
      target.removeEventListener('pointermove', onMove)
      target.removeEventListener('pointerup', onUp)
      target.removeEventListener('pointercancel', end)
      document.removeEventListener('keydown', onKey, true)
      clear()
    }
    const onUp = (event: PointerEvent) => {
      // The last move may not have been reported apart from the release.
      if (begun) {
        move(event)
        done(event)
      }
      end()
    }
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'Escape') return
      event.preventDefault()
      event.stopPropagation()
      end()
    }
    target.addEventListener('pointermove', onMove)
    target.addEventListener('pointerup', onUp)
    target.addEventListener('pointercancel', end)
    document.addEventListener('keydown', onKey, true)
  }

  function moveClips(down: PointerEvent, held: Clip): void {
    const document = project.document!
    const ids = desk.linked ? withLinked(document, desk.selection) : [...desk.selection]
    const clips = ids.map((id) => document.clips[id]!).filter(Boolean)
    const targets = snapTargets(document, project.reelId, new Set(ids), player.tick.value)
    const heldTrack = document.tracks[held.trackId]!
    const kindRows = rows.value.filter((row) => row.track.kind === heldTrack.kind)
    const start = { tick: desk.toTick(local(down).x), row: kindRows.findIndex((row) => row.track.id === heldTrack.id) }
    let plan: DropPlan | null = null
    follow(
      down,
      (event) => {
        const at = local(event)
        const edges = clips.flatMap((clip) => [clip.start, clipEnd(clip)])
        let by = desk.toTick(at.x) - start.tick
        by += stick(edges.map((edge) => edge + by), targets, event) // prettier-ignore
        const row = rowAt(rows.value, at.y + desk.scrollY)
        const shift = row && row.track.kind === heldTrack.kind ? kindRows.indexOf(row) - start.row : 0
        // Pictures move by whole frames, measured on the clip that is held.
        if (heldTrack.kind === 'picture') by = snapToFrame(held.start + by, project.reel!.format.rate) - held.start
        plan = planMove(document, rows.value, clips, by, shift, heldTrack.kind, event.altKey, desk.linked)
        ghosts.value = plan.ghosts
        bad.value = !plan.command
        lifted.value = new Set(ids)
        label.value = { words: plan.words, bad: bad.value, ...at }
      },
      () => {
        if (plan?.command) project.perform(plan.command)
        else if (plan) notices.warn(plan.words)
      },
    )
  }

  function trimEdge(down: PointerEvent, clip: Clip, edge: 'start' | 'end'): void {
    const document = project.document!
    const { rate } = project.reel!.format
    const track = document.tracks[clip.trackId]!
    const limits = trimLimits(new Edit(document, TRIAL), clip, edge)
    const group = desk.linked ? withLinked(document, [clip.id]) : [clip.id]
    const targets = snapTargets(document, project.reelId, new Set(group), player.tick.value)
    const origin = edge === 'start' ? clip.start : clipEnd(clip)
    const offset = origin - desk.toTick(local(down).x)
    let to = origin
    follow(
      down,
      (event) => {
        const at = local(event)
        let wanted = desk.toTick(at.x) + offset
        wanted += stick([wanted], targets, event)
        const grid = track.kind === 'picture' ? snapToFrame(wanted, rate) : snapToSample(wanted)
        to = Math.min(Math.max(grid, limits.min), limits.max)
        if (grid !== to) snapLine.value = null
        const shown = new Map<string, Clip>()
        try {
          const next = applyCommand(
            document,
            commandSchema.parse({ type: 'trim', clipId: clip.id, edge, to, linked: desk.linked }),
            TRIAL,
          ).project
          for (const id of group) if (next.clips[id] !== document.clips[id]) shown.set(id, next.clips[id]!)
        } catch (error) {
          if (!(error instanceof CommandRefused)) throw error
        }
        changed.value = shown
        const stop = grid !== to ? (edge === 'end' ? ', no more at this end' : ', no more before') : ''
        label.value = {
          words: `${formatTimecode(to, rate)}, ${to >= origin ? '+' : '−'}${formatSeconds(Math.abs(to - origin))}${stop}`,
          bad: false,
          ...at,
        }
        player.peek(edge === 'start' ? to : to - 1)
      },
      () => {
        if (to !== origin) project.perform({ type: 'trim', clipId: clip.id, edge, to, linked: desk.linked })
        player.peek(player.tick.value)
      },
    )
  }

  function rubberBand(down: PointerEvent): void {
    const from = local(down)
    const before = down.shiftKey ? new Set(desk.selection) : new Set<string>()
    const fixed = { tick: desk.toTick(from.x), y: from.y + desk.scrollY }
    follow(
      down,
      (event) => {
        const at = local(event)
        band.value = { x0: desk.toX(fixed.tick), y0: fixed.y - desk.scrollY, x1: at.x, y1: at.y }
        const [left, right] = [fixed.tick, desk.toTick(at.x)].sort((a, b) => a - b) as [number, number]
        const [top, bottom] = [fixed.y, at.y + desk.scrollY].sort((a, b) => a - b) as [number, number]
        const inside = new Set(rows.value.filter((row) => row.top < bottom && row.top + row.height > top).map((row) => row.track.id)) // prettier-ignore
        const found = Object.values(project.document!.clips).filter((clip) => inside.has(clip.trackId) && clip.start < right && clipEnd(clip) > left) // prettier-ignore
        desk.select([...before, ...found.map((clip) => clip.id)], project.document)
      },
      () => {},
    )
  }

  return { ghosts, bad, lifted, changed, band, label, snapLine, clear, local, stick, moveClips, trimEdge, rubberBand }
}
