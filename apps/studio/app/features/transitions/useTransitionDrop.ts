import { TICKS_PER_SECOND, cutOf } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { tried } from '~/features/project/tried'
import type { DropPlace, DropPreview, TimelineDrop } from '~/features/registry/feature'
import { useDesk } from '~/features/timeline/deskStore'
import { nearestCut, withSound, type Cut } from './cuts'
import { useTransitionActions } from './useTransitionActions'

/** Pixels from a cut within which a transition that is dragged goes there. */
const REACH = 90

/** A transition dragged from the gallery: shows the cut it will go on, and puts it there. */
export function useTransitionDrop(): TimelineDrop {
  const project = useProject()
  const desk = useDesk()
  const act = useTransitionActions()

  function aim({ at, track }: DropPlace, kind: string): { preview: DropPreview; cut: Cut | null } {
    const document = project.document!
    const refuse = (words: string) => ({ preview: { ghosts: [], words, refused: true }, cut: null })
    if (track?.locked) return refuse(`${track.name} is locked`)
    const reach = (REACH / desk.pixelsPerSecond) * TICKS_PER_SECOND
    const cut = track ? nearestCut(document, track.id, desk.toTick(at.x), reach) : null
    if (!cut) return refuse('on a cut, or on the start or end of a clip')
    const plan = act.plan([cut], kind)!
    const put = tried(project.document!, plan.command)?.project.transitions[plan.list[0]!.id]
    if (!put) return refuse('there is no room for it here')
    const place = cutOf(put, (id) => document.clips[id])!
    const ghosts = [{ trackId: cut.trackId, start: place - put.before, length: put.before + put.after }]
    return { preview: { ghosts, words: plan.words, refused: false }, cut }
  }

  return {
    follow: (place, data) => aim(place, String(data.id)).preview,
    drop(place, data) {
      const { cut } = aim(place, String(data.id))
      if (cut) act.put(withSound(project.document!, project.reelId, cut), String(data.id))
    },
  }
}
