<script setup lang="ts">
import { monitorForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { useIntervalFn } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import Plus from '@lucide/vue/dist/esm/icons/plus.mjs'
import type { Purpose } from '@dusk/timeline'
import { HEADS, type Row } from './layout'
import { useFeatures } from '~/features/registry/feature'
import { useDesk } from './deskStore'
import { SCROLL_MS, type DragSession } from './useDragSession'
import { useProject } from '~/features/project/projectStore'

/** The heads of the tracks beside the timeline, and adding one. */
const props = defineProps<{
  rows: readonly Row[]
  width: number
  height: number
  ruler: number
  session: DragSession
}>()
const project = useProject()
const desk = useDesk()
const features = useFeatures()

const PURPOSES: { purpose: Purpose; label: string }[] = [
  { purpose: 'picture', label: 'Picture' },
  { purpose: 'titles', label: 'Titles' },
  { purpose: 'voice', label: 'Voice' },
  { purpose: 'music', label: 'Music' },
  { purpose: 'effects', label: 'Effects' },
  { purpose: 'ambience', label: 'Ambience' },
]
const frontId = computed(() => props.rows.find((row) => row.track.kind === 'picture' && !row.track.hidden)?.track.id)
const manyPictures = computed(() => props.rows.filter((row) => row.track.kind === 'picture').length > 1)

/** How far out of sight heads are there all the same, for the Tab key to reach the next one. Pixels. */
const NEAR = 120
/** The track whose head has the focus or is being dragged: it stays, also out of sight. */
const held = ref<string | null>(null)
/** Heads in sight: a hundred tracks cost what is seen of them. */
const shown = computed(() => {
  const [top, bottom] = [desk.scrollY - NEAR, desk.scrollY + props.height + NEAR]
  return props.rows.filter((row) => row.track.id === held.value || (row.top + row.height > top && row.top < bottom))
})

/** At an upper or lower edge tracks beyond it come into sight while a head is dragged. */
let pointerY = 0
const edges = useIntervalFn(
  () => {
    // Only up and down: how far the pointer is to the left says nothing here.
    const { y } = props.session.local({ clientX: 0, clientY: pointerY })
    props.session.scrollAt({ x: desk.timelineWidth / 2, y })
  },
  SCROLL_MS,
  { immediate: false },
)
let stop = () => {}
onMounted(() => {
  stop = monitorForElements({
    canMonitor: ({ source }) => source.data.kind === 'track',
    onDrag({ location }) {
      pointerY = location.current.input.clientY
      if (!edges.isActive.value) edges.resume()
    },
    onDrop: edges.pause,
  })
})
onBeforeUnmount(() => stop())

function focused(event: FocusEvent, row: Row): void {
  held.value = row.track.id
  // Whoever comes by the keyboard sees where they are.
  if (!(event.target as HTMLElement).matches(':focus-visible')) return
  if (row.top < desk.scrollY) desk.scrollY = row.top
  else desk.scrollY = Math.max(desk.scrollY, row.top + row.height - props.height)
}
</script>

<template>
  <div class="relative z-10 shrink-0 overflow-clip border-r border-line bg-ground" :style="{ width: `${width}px` }">
    <Menu as="div" class="relative z-30 border-b border-line bg-panel" :style="{ height: `${ruler}px` }">
      <MenuButton class="flex h-full w-full items-center gap-1.5 px-3 text-sm text-muted hover:text-ivory"
        ><Plus :size="13" /> track</MenuButton
      >
      <MenuItems class="absolute top-full left-2 w-36 rounded-md border border-line bg-raised py-1">
        <MenuItem v-for="entry in PURPOSES" :key="entry.purpose" v-slot="{ active }">
          <button
            class="flex w-full items-center gap-2 px-3 py-1 text-left"
            :class="active && 'bg-line'"
            @click="project.perform({ type: 'addTrack', reelId: project.reelId, purpose: entry.purpose })"
          >
            <span class="size-2.5 rounded-full" :style="{ background: `var(--color-clip-${entry.purpose})` }" />{{
              entry.label
            }}
          </button>
        </MenuItem>
      </MenuItems>
    </Menu>
    <div
      v-for="row in shown"
      :key="row.track.id"
      class="absolute inset-x-0 flex"
      :style="{ top: `${ruler + row.top - desk.scrollY}px`, height: `${row.height}px` }"
      @focusin="focused($event, row)"
      @focusout="held = null"
      @dragstart="held = row.track.id"
      @dragend="held = null"
    >
      <TrackHead
        class="shrink-0"
        :style="{ width: `${HEADS - 1}px` }"
        :track="row.track"
        :front="manyPictures && row.track.id === frontId"
      />
      <div v-if="width > HEADS" class="flex min-w-0 flex-1 bg-panel">
        <template v-for="feature in features" :key="feature.id">
          <component
            :is="feature.timeline.head"
            v-if="feature.timeline?.head"
            :track="row.track"
            :height="row.height"
          />
        </template>
      </div>
    </div>
  </div>
</template>
