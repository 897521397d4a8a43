<script setup lang="ts">
import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, watch, type Directive } from 'vue'
import FolderPlus from '@lucide/vue/dist/esm/icons/folder-plus.mjs'
import LayoutGrid from '@lucide/vue/dist/esm/icons/layout-grid.mjs'
import List from '@lucide/vue/dist/esm/icons/list.mjs'
import Plus from '@lucide/vue/dist/esm/icons/plus.mjs'
import Search from '@lucide/vue/dist/esm/icons/search.mjs'
import type { Asset, Label } from '@dusk/timeline'
import type { DraggedParts } from '~/features/timeline/drop'
import { useSourceActions } from '~/features/source/useSourceActions'
import { findAssets, foldersIn, type LibraryFilter, type LibrarySort } from './library'
import { droppedFiles } from './droppedFiles'
import { LABELS } from '~/features/ui/labels'
import { useSource } from '~/features/player/sourceStore'
import { useDesk } from '~/features/timeline/deskStore'
import { useProject } from '~/features/project/projectStore'
import { useUploads } from './uploadsStore'
import { useAssetMenu } from './useAssetMenu'
import { useSourceRemoval } from './useSourceRemoval'

/** The library: every source of the project, in folders, found and sorted, skimmed, and dragged to the reel. */
const project = useProject()
const desk = useDesk()
const uploads = useUploads()
const act = useSourceActions()
const source = useSource()
const removal = useSourceRemoval()
const words = ref('')
const kind = ref<LibraryFilter['kind']>('all')
const label = ref<Label | null>(null)
const use = ref<LibraryFilter['use']>('all')
const sort = ref<LibrarySort>('name')
const details = ref(false)
const folderId = ref<string | null>(null)
const renaming = ref<string | null>(null)
const picker = ref<HTMLInputElement | null>(null)
const over = ref(false)
const drawer = ref<{ scroller: HTMLElement | null } | null>(null)
const scroller = computed(() => drawer.value?.scroller ?? null)
const { width } = useElementSize(scroller)

const KINDS = [
  ['all', 'All'],
  ['video', 'Picture'],
  ['sound', 'Sound'],
  ['still', 'Stills'],
] as const
/** What is shown by its use, and what a click on that shows next. */
const USES = {
  all: { label: 'Any use', title: 'Show only what is, or is not, in the reel', next: 'unused' },
  unused: { label: 'Not in reel', title: 'Shown: what is not in the reel', next: 'used' },
  used: { label: 'In reel', title: 'Shown: what is in the reel', next: 'all' },
} as const
const SORTS: { value: LibrarySort; label: string }[] = [
  { value: 'name', label: 'By name' },
  { value: 'added', label: 'Newest first' },
  { value: 'length', label: 'Longest first' },
  { value: 'kind', label: 'By kind' },
]

const used = computed(() => {
  const ids = new Set<string>()
  for (const clip of Object.values(project.document?.clips ?? {})) if (clip.kind === 'media') ids.add(clip.assetId)
  return ids
})
const filter = computed<LibraryFilter>(() => ({
  words: words.value,
  kind: kind.value,
  label: label.value,
  folderId: folderId.value,
  use: use.value,
}))
const assets = computed(() =>
  findAssets(
    Object.values(project.document?.assets ?? {}),
    filter.value,
    sort.value,
    used.value,
    (id) => project.sources[id]?.added ?? 0,
  ),
)
const folders = computed(() =>
  words.value ? [] : foldersIn(Object.values(project.document?.folders ?? {}), folderId.value),
)
const count = computed(() => Object.keys(project.document?.assets ?? {}).length)
const sending = computed(() => uploads.list.filter((entry) => entry.projectId === project.id))
watch(
  () => project.document?.folders,
  (all) => folderId.value && !all?.[folderId.value] && (folderId.value = null),
)

/** Pixels between cards, and the least that one is wide. */
const GAP = 10
const LEAST = 92
// Only the rows in sight are in the page: a thousand sources scroll as lightly as ten.
const columns = computed(() => (details.value ? 1 : Math.max(1, Math.floor((width.value + GAP) / (LEAST + GAP)))))
const cell = computed(() => (width.value - (columns.value - 1) * GAP) / columns.value)
const rowCount = computed(() => Math.ceil(assets.value.length / columns.value))
const rowHeight = computed(() => (details.value ? 28 : Math.round((cell.value * 9) / 16) + 44))
const virtual = useVirtualizer(
  computed(() => ({
    count: rowCount.value,
    getScrollElement: () => scroller.value,
    estimateSize: () => rowHeight.value,
    overscan: 3,
  })),
)
watch(rowHeight, () => virtual.value.measure())
const rows = computed(() =>
  virtual.value.getVirtualItems().map((item) => ({
    key: String(item.key),
    top: item.start,
    assets: assets.value.slice(item.index * columns.value, (item.index + 1) * columns.value),
  })),
)

let anchor: string | null = null
/** Click selects; with Ctrl one more or less, with Shift everything from the last one on. */
function select(event: MouseEvent | KeyboardEvent, asset: Asset): void {
  const next = new Set(event.ctrlKey || event.metaKey || event.shiftKey ? desk.assets : [])
  if (event.shiftKey && anchor) {
    const ids = assets.value.map((entry) => entry.id)
    const [a, b] = [ids.indexOf(anchor), ids.indexOf(asset.id)].sort((x, y) => x - y) as [number, number]
    for (const id of ids.slice(Math.max(a, 0), b + 1)) next.add(id)
  } else {
    if (next.has(asset.id)) next.delete(asset.id)
    else next.add(asset.id)
    anchor = asset.id
  }
  desk.assets = next
  if (!(event instanceof MouseEvent) || event.detail < 2) clipsBefore = desk.selection
  desk.select([], null)
}

/** Clips that were selected before a source was: watching one leaves them so, to be replaced by it. */
let clipsBefore: ReadonlySet<string> = new Set()
function watchSource(asset: Asset): void {
  act.openSource(asset.id)
  const still = [...clipsBefore].filter((id) => project.document?.clips[id])
  if (still.length > 0) desk.selection = new Set(still)
}

/** What is meant by an entry: all that is selected, as it is listed, when it is one of them. */
const together = (asset: Asset) =>
  desk.assets.has(asset.id)
    ? assets.value.filter((entry) => desk.assets.has(entry.id)).map((entry) => entry.id)
    : [asset.id]

/** What is carried when an entry is dragged. */
const carried = (asset: Asset): DraggedParts & Record<string, unknown> => ({
  kind: 'parts',
  parts: together(asset).map((assetId) => ({ assetId })),
})
const carriers = new WeakMap<HTMLElement, { asset: Asset; stop: () => void }>()
/**
 * Makes an entry draggable. By its element, not by its source: when the columns change, a source's new entry is there
 * before its old one goes.
 */
const vCarry: Directive<HTMLElement, Asset> = {
  mounted(element, { value }) {
    const getInitialData = () => carried(carriers.get(element)!.asset)
    carriers.set(element, { asset: value, stop: draggable({ element, getInitialData }) })
  },
  updated: (element, { value }) => void (carriers.get(element)!.asset = value),
  unmounted: (element) => carriers.get(element)?.stop(),
}

async function newFolder(ids: readonly string[] = [...desk.assets]): Promise<void> {
  const id = crypto.randomUUID()
  project.perform({ type: 'addFolder', folderId: id, name: 'New folder', parentId: folderId.value })
  if (ids.length > 0) project.perform({ type: 'setAssets', assetIds: [...ids], set: { folderId: id } })
  await nextTick()
  renaming.value = id
}

function key(event: KeyboardEvent, asset: Asset): void {
  if (event.key === 'Enter') act.addToEnd(together(asset))
  // What is being watched already is played, as by the key anywhere else.
  else if (event.key === ' ' && source.assetId !== asset.id) act.openSource(asset.id)
  else if (event.key === 'Delete' || event.key === 'Backspace') removeSelected(asset)
  else return
  event.preventDefault()
  event.stopPropagation()
}

function removeSelected(asset: Asset): void {
  removal.remove(together(asset))
}

const menu = useAssetMenu({ together, watchSource, newFolder, folderId })

function add(files: Iterable<File>): void {
  for (const file of files) uploads.begin(file, project.id)
}

function pick(event: Event): void {
  const input = event.target as HTMLInputElement
  add([...(input.files ?? [])])
  input.value = ''
}

async function drop(event: DragEvent): Promise<void> {
  over.value = false
  add(await droppedFiles(event.dataTransfer))
}
</script>

<template>
  <GalleryDrawer
    ref="drawer"
    name="Footage"
    :list="{
      class: over && 'outline-2 -outline-offset-4 outline-dusk outline-dashed',
      'data-testid': 'footage-list',
    }"
    @dragover.prevent="over = $event.dataTransfer?.types.includes('Files') ?? false"
    @dragleave="over = false"
    @drop.prevent="drop"
  >
    <template #actions>
      <button class="key px-1.5" title="New folder" aria-label="New folder" @click="newFolder()">
        <FolderPlus :size="16" />
      </button>
      <button
        class="key px-1.5"
        :aria-pressed="details"
        :title="details ? 'As pictures' : 'As a list'"
        :aria-label="details ? 'Show as pictures' : 'Show as a list'"
        @click="details = !details"
      >
        <LayoutGrid v-if="details" :size="16" /><List v-else :size="16" />
      </button>
      <button class="key px-1.5" title="Add files" aria-label="Add files" @click="picker?.click()">
        <Plus :size="17" />
      </button>
      <input ref="picker" type="file" multiple class="hidden" aria-label="Files to add" @change="pick" />
    </template>
    <template #find>
      <div class="flex gap-1.5">
        <label class="relative block min-w-0 flex-1">
          <Search :size="14" class="absolute top-1/2 left-2 -translate-y-1/2 text-muted" />
          <input
            v-model="words"
            class="field pl-7"
            :placeholder="`Find in ${count} ${count === 1 ? 'item' : 'items'}`"
            aria-label="Find footage"
            @keydown.stop
          />
        </label>
        <ChoiceList
          class="w-24 shrink-0"
          list="right-0 mt-1 w-32"
          label="Order of the footage"
          :value="sort"
          :options="SORTS"
          @change="sort = $event"
        />
      </div>
    </template>
    <template #chips>
      <ChipButton v-for="[value, text] in KINDS" :key="value" :pressed="kind === value" @click="kind = value">
        {{ text }}
      </ChipButton>
      <ChipButton :pressed="use !== 'all'" :title="USES[use].title" @click="use = USES[use].next">
        {{ USES[use].label }}
      </ChipButton>
      <button
        v-for="entry in LABELS"
        :key="entry"
        class="size-6 shrink-0 scale-75 rounded-full"
        :class="label === entry ? 'outline-2 outline-offset-1 outline-ivory' : label ? 'opacity-40' : 'opacity-70'"
        :style="{ background: `var(--color-${entry})` }"
        :aria-label="`Only what is labelled ${entry}`"
        :aria-pressed="label === entry"
        @click="label = label === entry ? null : entry"
      />
    </template>
    <FolderPath v-model="folderId" />
    <PendingImportList :sending="sending" />
    <FolderList v-model="folderId" v-model:renaming="renaming" :folders="folders" />
    <ReelList v-if="!words && !folderId" />
    <p
      v-if="count === 0 && sending.length === 0 && project.pendingImports.length === 0"
      class="mt-10 px-4 text-center text-muted"
    >
      Drop video, sound or pictures here, or add them with +. You can cut as soon as they appear. The stock beside has
      sounds and backgrounds of our own.
    </p>
    <p v-else-if="count > 0 && assets.length === 0 && folders.length === 0" class="mt-10 text-center text-muted">
      {{ words ? 'Nothing here is called like that.' : 'Nothing here. Drag footage onto a folder to file it.' }}
    </p>
    <div class="relative" :style="{ height: `${virtual.getTotalSize()}px` }">
      <div
        v-for="row in rows"
        :key="row.key"
        class="absolute inset-x-0 top-0 grid gap-2.5"
        :style="{ transform: `translateY(${row.top}px)`, gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }"
      >
        <div
          v-for="asset in row.assets"
          :key="asset.id"
          v-carry="asset"
          tabindex="0"
          role="button"
          class="rounded-md"
          :aria-label="`${asset.name}, ${asset.kind}. Press Enter to add it at the end, Space to watch it.`"
          :aria-pressed="desk.assets.has(asset.id)"
          :title="[asset.name, asset.note, ...(project.sources[asset.id]?.notes ?? [])].filter(Boolean).join('\n')"
          @click="select($event, asset)"
          @dblclick="watchSource(asset)"
          @contextmenu.prevent="menu.open($event, asset)"
          @keydown="key($event, asset)"
        >
          <AssetCard
            v-if="!details"
            :asset="asset"
            :source="project.sources[asset.id]"
            :used="used.has(asset.id)"
            :selected="desk.assets.has(asset.id)"
          />
          <AssetLine
            v-else
            :asset="asset"
            :bytes="project.sources[asset.id]?.size ?? 0"
            :used="used.has(asset.id)"
            :selected="desk.assets.has(asset.id)"
          />
        </div>
      </div>
    </div>
    <ContextMenu
      v-if="menu.place.value"
      :place="menu.place.value"
      :groups="menu.groups()"
      :label="`What can be done with ${menu.place.value.asset.name}`"
      @close="menu.place.value = null"
    />
  </GalleryDrawer>
</template>
