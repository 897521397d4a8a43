import type { Asset, Folder, Label } from '@dusk/timeline'

/** What the library shows. */
export interface LibraryFilter {
  words: string
  kind: 'all' | Asset['kind']
  label: Label | null
  /** `null`: the top; `'everywhere'`: no folder asked for. */
  folderId: string | null | 'everywhere'
  /** Only what is, or is not, in the reel. */
  use: 'all' | 'used' | 'unused'
}

export type LibrarySort = 'name' | 'length' | 'kind' | 'added'

/** Sources that pass a filter, sorted. A search looks through every folder. */
export function findAssets(
  assets: Iterable<Asset>,
  filter: LibraryFilter,
  sort: LibrarySort,
  used: ReadonlySet<string>,
  added: (assetId: string) => number,
): Asset[] {
  const words = filter.words.trim().toLowerCase().split(/\s+/).filter(Boolean)
  const found = [...assets].filter((asset) => {
    if (filter.kind !== 'all' && asset.kind !== filter.kind) return false
    if (filter.label && asset.label !== filter.label) return false
    if (filter.use !== 'all' && used.has(asset.id) !== (filter.use === 'used')) return false
    if (words.length > 0) {
      const text = `${asset.name} ${asset.note}`.toLowerCase()
      return words.every((word) => text.includes(word))
    }
    return filter.folderId === 'everywhere' || asset.folderId === filter.folderId
  })
  const byName = (a: Asset, b: Asset) => a.name.localeCompare(b.name, undefined, { numeric: true })
  const compare: Record<LibrarySort, (a: Asset, b: Asset) => number> = {
    name: byName,
    length: (a, b) => b.length - a.length || byName(a, b),
    kind: (a, b) => a.kind.localeCompare(b.kind) || byName(a, b),
    added: (a, b) => added(b.id) - added(a.id) || byName(a, b),
  }
  return found.sort(compare[sort])
}

/** Folders inside one, by name; `null` is the top. */
export function foldersIn(folders: Iterable<Folder>, parentId: string | null): Folder[] {
  return [...folders].filter((folder) => folder.parentId === parentId).sort((a, b) => a.name.localeCompare(b.name))
}

/** The way from the top to a folder, itself last. */
export function pathOf(folders: Readonly<Record<string, Folder>>, folderId: string | null): Folder[] {
  const path: Folder[] = []
  for (let id = folderId; id; id = folders[id]?.parentId ?? null) {
    const folder = folders[id]
    if (!folder || path.includes(folder)) break
    path.unshift(folder)
  }
  return path
}
