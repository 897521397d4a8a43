<script setup lang="ts">
import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { computed, onBeforeUnmount, onMounted, ref, type Directive } from 'vue'
import Check from '@lucide/vue/dist/esm/icons/check.mjs'
import Play from '@lucide/vue/dist/esm/icons/play.mjs'
import Plus from '@lucide/vue/dist/esm/icons/plus.mjs'
import Square from '@lucide/vue/dist/esm/icons/square.mjs'
import { formatShort, secondsToTicks } from '@dusk/timeline'
import { api } from '~/features/ui/api'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import { importStock, type DraggedStock, type StockItem } from './stock'

/** Sounds, music and pictures that come with Dusk Reel. They are heard and seen here, and added to the footage. */
const project = useProject()
const notices = useNotices()
const items = ref<StockItem[]>([])
const loading = ref(true)
const group = ref('')
const playing = ref<string | null>(null)
const adding = ref<ReadonlySet<string>>(new Set())
const audio = new Audio()

const groups = computed(() => [...new Set(items.value.map((item) => item.group))])
const shown = computed(() => items.value.filter((item) => !group.value || item.group === group.value))
const here = computed(() => new Set(Object.values(project.document?.assets ?? {}).map((asset) => asset.name)))

onMounted(async () => {
  try {
    items.value = (await api<{ items: StockItem[] }>('/stock')).items
  } catch (error) {
    notices.warn((error as Error).message)
  } finally {
    loading.value = false
  }
})
audio.onended = () => (playing.value = null)
onBeforeUnmount(() => audio.pause())

const stops = new WeakMap<HTMLElement, () => void>()
const vCarry: Directive<HTMLElement, StockItem> = {
  mounted(element, { value: item }) {
    const getInitialData = () => ({ kind: 'stock', item }) satisfies DraggedStock & Record<string, unknown>
    stops.set(element, draggable({ element, getInitialData }))
  },
  unmounted: (element) => stops.get(element)?.(),
}

function listen(item: StockItem): void {
  audio.pause()
  if (playing.value === item.name) {
    playing.value = null
    return
  }
  audio.src = `/api/stock/${item.name}`
  playing.value = item.name
  audio.play().catch(() => {
    playing.value = null
    notices.warn('This browser plays no sound just now.')
  })
}

async function add(item: StockItem): Promise<void> {
  adding.value = new Set([...adding.value, item.name])
  try {
    await importStock(project.id, item.name)
    project.refreshSources()
    notices.say(`${item.title} is in the footage.`)
  } catch (error) {
    notices.warn((error as Error).message)
  } finally {
    adding.value = new Set([...adding.value].filter((name) => name !== item.name))
  }
}
</script>

<template>
  <GalleryDrawer name="Stock">
    <template #chips>
      <ChipButton v-for="entry in ['', ...groups]" :key="entry" :pressed="group === entry" @click="group = entry">
        {{ entry || 'All' }}
      </ChipButton>
    </template>
    <template #filters><p class="text-sm text-muted">Ours, free to use in any film.</p></template>
    <p v-if="loading" class="mt-8 text-center text-muted">Looking …</p>
    <p v-else-if="items.length === 0" class="mx-4 mt-8 text-center text-muted">
      The stock is not made yet. Start Dusk Reel with ./dusk start and it is.
    </p>
    <ul class="grid grid-cols-[repeat(auto-fill,minmax(92px,1fr))] content-start gap-2 pt-2">
      <li
        v-for="item in shown"
        :key="item.name"
        v-carry="item"
        class="min-w-0 cursor-grab"
        :title="`Drag ${item.title} to the timeline, or add it to the footage`"
      >
        <div class="group relative aspect-video overflow-hidden rounded-md bg-ground">
          <img
            v-if="item.kind === 'still'"
            :src="`/api/stock/${item.name}?small`"
            alt=""
            loading="lazy"
            class="size-full object-contain"
          />

          <button
            v-else
            class="absolute inset-0 grid place-items-center text-muted hover:text-ivory"
            :aria-label="playing === item.name ? `Stop ${item.title}` : `Hear ${item.title}`"
            @click="listen(item)"
          >
            <WavePicture :url="`/api/stock/${item.name}?small`" class="absolute inset-0 opacity-60" />
            <Square v-if="playing === item.name" :size="20" class="relative text-lamp" />
            <Play v-else :size="20" class="relative" />
          </button>
          <button
            :class="[
              'absolute right-1 bottom-1 grid size-6 place-items-center',
              'rounded-md bg-raised hover:bg-line disabled:opacity-50',
            ]"
            :disabled="adding.has(item.name)"
            :aria-label="`Add ${item.title} to the footage`"
            :title="here.has(item.name) ? 'In the footage already; add again' : 'Add to the footage'"
            @click="add(item)"
          >
            <Check v-if="here.has(item.name)" :size="14" class="text-moss" /><Plus v-else :size="14" />
          </button>
        </div>
        <p class="mt-1 truncate text-sm leading-4">{{ item.title }}</p>
        <p class="text-[11px] leading-4 text-muted">
          {{ item.kind === 'sound' ? formatShort(secondsToTicks(item.seconds)) : 'still' }}
        </p>
      </li>
    </ul>
  </GalleryDrawer>
</template>
