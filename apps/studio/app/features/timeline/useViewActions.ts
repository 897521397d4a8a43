import { clipEnd, cutPlaces, tracksOf } from '@dusk/timeline'
import { useDesk } from './deskStore'
import { nextPlace } from './nextPlace'
import { useSelection } from './useSelection'
import { useSource } from '~/features/player/sourceStore'
import { usePlayer, usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'

/** What chooses clips, and brings another part of the reel into view. */
export function useViewActions() {
  const project = useProject()
  const desk = useDesk()
  const playhead = usePlayhead()
  const player = usePlayer()
  const source = useSource()
  const { rate, length, selected } = useSelection()

  /** Selects nothing; with nothing selected an open source is left. */
  function selectNothing(): void {
    if (desk.selection.size + desk.transitions.size > 0 || desk.trackId) desk.select([], null)
    else if (source.assetId) {
      player.pause()
      source.close(player.place())
    }
  }

  function selectAll(): void {
    const document = project.document
    if (!document) return
    const tracks = new Set(tracksOf(document, project.reelId).map((track) => track.id))
    desk.select(
      Object.values(document.clips)
        .filter((clip) => tracks.has(clip.trackId))
        .map((clip) => clip.id),
      document,
    )
  }

  /** Everything that begins at or after the first selected clip, or the playhead. */
  function selectOnwards(): void {
    const document = project.document
    if (!document) return
    const from = selected()[0]?.start ?? playhead.now()
    const tracks = new Set(
      tracksOf(document, project.reelId)
        .filter((track) => !track.locked)
        .map((track) => track.id),
    )
    desk.select(
      Object.values(document.clips)
        .filter((clip) => tracks.has(clip.trackId) && clip.start >= from)
        .map((clip) => clip.id),
      document,
    )
  }

  /** Goes to the next or previous edge of a clip. */
  function jump(direction: 1 | -1): void {
    const document = project.document
    if (!document) return
    const edges = cutPlaces(document, project.reelId)
    const next = nextPlace(direction < 0 ? [0, ...edges] : edges, playhead.now(), direction, rate())
    if (next !== null) playhead.goTo(next)
  }

  function fit(): void {
    desk.fit(length())
  }

  function fitSelection(): void {
    const clips = selected()
    if (clips.length === 0) return fit()
    desk.fit(Math.max(...clips.map(clipEnd)), clips[0]!.start)
  }

  /** Zooms at the playhead. */
  function zoom(factor: number): void {
    desk.zoom(factor, playhead.now(), Math.max(length(), playhead.now()))
  }

  return { selectNothing, selectAll, selectOnwards, jump, fit, fitSelection, zoom }
}
