import { inject, type InjectionKey } from 'vue'
import { reelLength, tracksOf } from '@dusk/timeline'
import type { Player } from '~/lib/player'
import { planPlace } from '~/lib/timeline/drop'
import { rowsOf } from '~/lib/timeline/layout'
import { useDesk } from '~/stores/desk'
import { useNotices } from '~/stores/notices'
import { useProject } from '~/stores/project'

export const PLAYER: InjectionKey<Player> = Symbol('player')

/** The desk's player. */
export function usePlayer(): Player {
  const player = inject(PLAYER)
  if (!player) throw new Error('There is no desk around this component.')
  return player
}

/** What buttons, keys and menus of the desk do. */
export function useDeskActions() {
  const project = useProject()
  const desk = useDesk()
  const notices = useNotices()
  const player = usePlayer()

  /** Cuts what is selected under the playhead; with nothing selected there, every track. */
  function split(everything = false): void {
    const document = project.document
    if (!document) return
    const at = player.tick.value
    const under = everything
      ? []
      : [...desk.selection].filter((id) => {
          const clip = document.clips[id]
          return clip && clip.start < at && clip.start + clip.length > at
        })
    project.perform({ type: 'split', reelId: project.reelId, at, clipIds: under.length > 0 ? under : null })
  }

  function remove(closeUp: boolean): void {
    if (desk.selection.size === 0) return notices.say('Select a clip first.')
    if (project.perform({ type: 'remove', clipIds: [...desk.selection], closeUp, linked: desk.linked }))
      desk.select([], null)
  }

  function addToEnd(assetId: string): void {
    const document = project.document
    const asset = document?.assets[assetId]
    if (!document || !asset) return
    const rows = rowsOf(document, project.reelId)
    const plan = planPlace(
      document,
      rows,
      [{ asset }],
      null,
      asset.kind === 'sound' ? player.tick.value : reelLength(document, project.reelId),
      false,
    )
    if (plan.command) project.perform(plan.command)
    else notices.warn(plan.words)
  }

  function selectAll(): void {
    const document = project.document
    if (!document) return
    const tracks = new Set(tracksOf(document, project.reelId).map((track) => track.id))
    desk.select(Object.values(document.clips).filter((clip) => tracks.has(clip.trackId)).map((clip) => clip.id), document) // prettier-ignore
  }

  /** Goes to the next or previous edge of a clip. */
  function jump(direction: 1 | -1): void {
    const document = project.document
    if (!document) return
    const now = player.tick.value
    const tracks = new Set(tracksOf(document, project.reelId).map((track) => track.id))
    let best: number | null = direction < 0 ? 0 : null
    for (const clip of Object.values(document.clips)) {
      if (!tracks.has(clip.trackId)) continue
      for (const edge of [clip.start, clip.start + clip.length])
        if (direction > 0 ? edge > now && (best === null || edge < best) : edge < now && edge > (best ?? -1))
          best = edge
    }
    if (best !== null) player.seek(best)
  }

  function fit(): void {
    if (project.document) desk.fit(reelLength(project.document, project.reelId))
  }

  return { split, remove, addToEnd, selectAll, jump, fit }
}
