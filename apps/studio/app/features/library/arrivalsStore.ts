import { defineStore } from 'pinia'
import { watch } from 'vue'
import type { Asset } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { useAim } from '~/features/timeline/aimStore'
import { planPlace } from '~/features/timeline/drop'
import { rowsOf } from '~/features/timeline/layout'
import { useNotices } from '~/features/ui/noticesStore'
import { useUploads } from './uploadsStore'

/** What is on its way, and where it goes when it is there. */
export interface Arrival {
  /** Ids of uploads or of sources that are read in, in the order in which they are placed. */
  ids: readonly string[]
  /** Track under the pointer. */
  trackId: string | null
  start: number
  /** Covers what lies there. */
  over: boolean
}

/** What was dropped on the timeline before it was read in: it is placed when the last of it is there. */
export const useArrivals = defineStore('arrivals', () => {
  const project = useProject()
  const notices = useNotices()
  const aim = useAim()
  const uploads = useUploads()
  let waiting: (Arrival & { projectId: string })[] = []

  function expect(arrival: Arrival): void {
    waiting.push({ ...arrival, projectId: project.id })
    settle()
  }

  /** Places what was dropped once the document knows every file of it that can be read. */
  function settle(): void {
    const document = project.document
    if (!document || waiting.length === 0) return
    // What was dropped in a project that was left since stays in its library.
    waiting = waiting.filter(({ projectId }) => projectId === project.id)
    const given = (id: string) => document.assets[uploads.idOf(id)]
    const failed = (id: string) =>
      uploads.cancelled.includes(id) ||
      project.pendingImports.some((entry) => entry.id === uploads.idOf(id) && entry.state === 'failed') ||
      uploads.list.some((entry) => entry.id === id && entry.state === 'failed')
    const there = waiting.filter(({ ids }) => ids.every((id) => given(id) || failed(id)))
    waiting = waiting.filter((arrival) => !there.includes(arrival))
    for (const { ids, trackId, start, over } of there) {
      const assets = ids.map(given).filter((asset): asset is Asset => !!asset)
      if (assets.length === 0) continue
      const target = trackId ? (document.tracks[trackId] ?? null) : null
      const parts = assets.map((asset) => ({ asset }))
      const placed = planPlace(
        project.document!,
        rowsOf(project.document!, project.reelId),
        parts,
        aim.destination(target),
        start,
        over,
      )
      if (placed.command) project.perform(placed.command)
      else notices.warn(placed.words)
    }
  }

  watch(
    // Upload states one by one: to be told of any change deep within would mean looking through the whole document.
    [
      () => project.document,
      () => project.pendingImports,
      () => uploads.list.map(({ state }) => state).join(),
      () => uploads.cancelled.join(),
    ],
    settle,
  )

  return { expect }
})
