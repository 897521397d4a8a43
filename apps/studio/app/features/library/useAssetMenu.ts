import { ref, type Ref } from 'vue'
import type { Asset } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { useShortcuts } from '~/features/shortcuts/shortcutsStore'
import { useSourceActions } from '~/features/source/useSourceActions'
import { useDesk } from '~/features/timeline/deskStore'
import { useFileReplacing } from './useFileReplacing'
import { useSourceRemoval } from './useSourceRemoval'

/** What the library's list knows of its entries. */
export interface AssetList {
  /** An entry, or all that is selected when it is one of them. */
  together(asset: Asset): string[]
  watchSource(asset: Asset): void
  newFolder(assetIds: readonly string[]): Promise<void>
  folderId: Ref<string | null>
}

/** The right-click menu of an entry of the library. */
export function useAssetMenu({ together, watchSource, newFolder, folderId }: AssetList) {
  const project = useProject()
  const desk = useDesk()
  const shortcuts = useShortcuts()
  const act = useSourceActions()
  const removal = useSourceRemoval()
  const { replaceFile } = useFileReplacing()
  const place = ref<{ x: number; y: number; asset: Asset } | null>(null)

  function open(event: MouseEvent, asset: Asset): void {
    if (!desk.assets.has(asset.id)) desk.assets = new Set([asset.id])
    // The menu key has no pointer: it opens at the entry.
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
    const byKey = event.clientX === 0 && event.clientY === 0
    place.value = { x: byKey ? box.left + 8 : event.clientX, y: byKey ? box.bottom : event.clientY, asset }
  }

  function one(asset: Asset) {
    const key = (action: string) => shortcuts.keyOf(action)
    return [
      { label: 'Insert at the playhead', keys: key('choose.insert'), run: () => act.use('insert', asset) },
      { label: 'Lay over at the playhead', keys: key('choose.over'), run: () => act.use('over', asset) },
      { label: 'Stack above', keys: key('choose.stack'), run: () => act.use('stack', asset) },
      { label: 'Replace the selected clip', keys: key('choose.replace'), run: () => act.replace(asset) },
    ]
  }

  function groups() {
    if (!place.value) return []
    const { asset } = place.value
    const ids = together(asset)
    const many = ids.length > 1
    const folder = folderId.value ? project.document?.folders[folderId.value] : undefined
    const out = () => project.perform({ type: 'setAssets', assetIds: ids, set: { folderId: folder!.parentId } })
    return [
      [
        ...(many ? [] : [{ label: 'Watch', keys: 'Space', run: () => watchSource(asset) }]),
        {
          label: many ? `Add ${ids.length} to the end` : 'Add to the end',
          keys: 'Enter',
          run: () => act.addToEnd(ids),
        },
      ],
      many ? [] : one(asset),
      [
        ...(folder ? [{ label: `Out of “${folder.name}”`, run: () => void out() }] : []),
        { label: many ? 'New folder with these' : 'New folder with this', run: () => void newFolder(ids) },
        ...(many ? [] : [{ label: 'Replace its file…', run: () => replaceFile(asset) }]),
      ],
      [{ label: 'Remove', keys: 'Delete', run: () => removal.remove(ids) }],
    ]
  }

  return { place, open, groups }
}
