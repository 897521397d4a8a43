import { watch, type Ref } from 'vue'
import type { Asset } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { useAim } from '~/features/timeline/aimStore'
import { planPlace } from '~/features/timeline/drop'
import type { Row } from '~/features/timeline/layout'
import { useNotices } from '~/features/ui/noticesStore'
import { useUploads } from './uploadsStore'

/** Files dropped on the timeline: they are read in first, and placed when the last of them is there. */
export function useFilesPlaced(rows: Ref<readonly Row[]>) {
  const project = useProject()
  const notices = useNotices()
  const aim = useAim()
  const uploads = useUploads()
  let waiting: { ids: string[]; trackId: string | null; start: number; over: boolean }[] = []

  /** Several stills and clips at once go in the order of their names, as a person sees them in a folder. */
  function acceptFiles(files: readonly File[], trackId: string | null, start: number, over: boolean): void {
    const sorted = [...files].sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }))
    const ids = sorted.map((file) => uploads.begin(file, project.id))
    waiting.push({ ids, trackId, start, over })
    notices.say(
      ids.length === 1
        ? `${sorted[0]!.name} is placed as soon as it is read in.`
        : `${ids.length} files are placed as soon as they are read in.`,
    )
  }

  /** Places what was dropped once the document knows every file of it that can be read. */
  watch(
    // Upload states one by one: to be told of any change deep within would mean looking through the whole document.
    [
      () => project.document,
      () => project.pendingImports,
      () => uploads.list.map(({ state }) => state).join(),
      () => uploads.cancelled.join(),
    ],
    () => {
      const document = project.document
      if (!document || waiting.length === 0) return
      waiting = waiting.filter((drop) => {
        const given = (id: string) => document.assets[uploads.idOf(id)]
        const failed = (id: string) =>
          uploads.cancelled.includes(id) ||
          project.pendingImports.some((entry) => entry.id === uploads.idOf(id) && entry.state === 'failed') ||
          uploads.list.some((entry) => entry.id === id && entry.state === 'failed')
        if (drop.ids.some((id) => !given(id) && !failed(id))) return true
        const assets = drop.ids.map(given).filter((asset): asset is Asset => !!asset)
        const target = drop.trackId ? (document.tracks[drop.trackId] ?? null) : null
        if (assets.length === 0) return false
        const parts = assets.map((asset) => ({ asset }))
        const placed = planPlace(document, rows.value, parts, aim.destination(target), drop.start, drop.over)
        if (placed.command) project.perform(placed.command)
        else notices.warn(placed.words)
        return false
      })
    },
  )

  return { acceptFiles }
}
