import type { Ref } from 'vue'
import { clipEnd, snapToFrame, withLinked, type Clip } from '@dusk/timeline'
import { planMove, type DropPlan } from './drop'
import { rowAt, type Row } from './layout'
import { snapTargets } from './snapping'
import { useDesk } from './deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import type { DragSession } from './useDragSession'
import { usePlayhead } from '~/features/player/usePlayhead'

/** Moving clips and the rubber band. Escape gives up; letting go is one command. */
export function useTimelineDrag(session: DragSession, rows: Ref<Row[]>) {
  const project = useProject()
  const desk = useDesk()
  const notices = useNotices()
  const playhead = usePlayhead()
  const { ghosts, bad, lifted, band, label, local, stick, follow } = session

  function moveClips(down: PointerEvent, held: Clip): void {
    const document = project.document!
    const ids = desk.linked ? withLinked(document, desk.selection) : [...desk.selection]
    const clips = ids.map((id) => document.clips[id]!).filter(Boolean)
    const targets = snapTargets(document, project.reelId, new Set(ids), playhead.now())
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
        by += stick(
          edges.map((edge) => edge + by),
          targets,
          event,
        )
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
        const inside = new Set(
          rows.value.filter((row) => row.top < bottom && row.top + row.height > top).map((row) => row.track.id),
        )
        const found = Object.values(project.document!.clips).filter(
          (clip) => inside.has(clip.trackId) && clip.start < right && clipEnd(clip) > left,
        )
        desk.select([...before, ...found.map((clip) => clip.id)], project.document)
      },
      () => {},
    )
  }

  return { moveClips, rubberBand }
}
