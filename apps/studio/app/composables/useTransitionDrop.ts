import type { Ref } from 'vue'
import { TICKS_PER_SECOND, cutOf } from '@dusk/timeline'
import { nearestCut, type Cut } from '~/lib/transitions/cuts'
import { rowAt, type Row } from '~/lib/timeline/layout'
import { useDesk } from '~/stores/desk'
import { useProject } from '~/stores/project'
import type { DragSession } from './useDragSession'
import { useTransitionActions } from './useTransitionActions'

/** Pixels from a cut within which a transition that is dragged goes there. */
const REACH = 90

/** A transition dragged from the gallery: shows the cut it will go on, and puts it there. */
export function useTransitionDrop(rows: Ref<Row[]>, session: DragSession) {
  const project = useProject()
  const desk = useDesk()
  const act = useTransitionActions()
  let aim: { cut: Cut; kind: string } | null = null

  function follow(at: { x: number; y: number }, kind: string): void {
    const document = project.document
    const row = rowAt(rows.value, at.y + desk.scrollY)
    aim = null
    session.ghosts.value = []
    const cut =
      document && row
        ? nearestCut(document, row.track.id, desk.toTick(at.x), (REACH / desk.pixelsPerSecond) * TICKS_PER_SECOND)
        : null
    if (!cut || row!.track.locked) {
      session.label.value = {
        words: row?.track.locked ? `${row.track.name} is locked` : 'on a cut, or on the start or end of a clip',
        bad: true,
        ...at,
      }
      return
    }
    const plan = act.plan([cut], kind)!
    const [made] = plan.list
    const after = act.tried(plan.command)
    const put = after?.transitions[made!.id]
    session.bad.value = !put
    if (put) {
      const place = cutOf(put, (id) => document!.clips[id])!
      session.ghosts.value = [{ trackId: cut.trackId, start: place - put.before, length: put.before + put.after }]
      aim = { cut, kind }
    }
    session.label.value = { words: put ? plan.words : 'there is no room for it here', bad: !put, ...at }
  }

  function drop(): void {
    const now = aim
    aim = null
    if (now) act.put([now.cut], now.kind)
  }

  return { follow, drop }
}
