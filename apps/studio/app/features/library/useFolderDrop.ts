import { dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { onBeforeUnmount, ref } from 'vue'
import { useProject } from '~/features/project/projectStore'
import type { DraggedParts } from '~/features/timeline/drop'

/** Folders take sources that are dropped on them. */
export function useFolderDrop() {
  const project = useProject()
  /** The folder that a drag is over; `null` is the top, `undefined` none. */
  const over = ref<string | null>()
  const stops = new Map<string | null, () => void>()

  /** Makes an element the drop target of a folder; as a function ref. */
  function take(element: unknown, id: string | null): void {
    stops.get(id)?.()
    stops.delete(id)
    if (!(element instanceof HTMLElement)) return
    const stop = dropTargetForElements({
      element,
      canDrop: ({ source }) => source.data.kind === 'parts',
      onDragEnter: () => (over.value = id),
      onDragLeave: () => (over.value = undefined),
      onDrop: ({ source }) => {
        over.value = undefined
        const ids = (source.data as unknown as DraggedParts).parts.map((part) => part.assetId)
        project.perform({ type: 'setAssets', assetIds: ids, set: { folderId: id } })
      },
    })
    stops.set(id, stop)
  }
  onBeforeUnmount(() => stops.forEach((stop) => stop()))

  return { over, take }
}
