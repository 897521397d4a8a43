<script setup lang="ts">
import { computed, ref } from 'vue'
import { formatTimecode, snapToFrame, TICKS_PER_SECOND } from '@dusk/timeline'
import { pointerDrag } from '~/features/ui/pointerDrag'
import { useMarkerActions } from './useMarkerActions'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useDesk } from '~/features/timeline/deskStore'
import { useProject } from '~/features/project/projectStore'

/** Marks over the times: the marked range, and the reel's markers. Drag them; a click opens what a marker says. */
defineProps<{ height: number }>()
const project = useProject()
const desk = useDesk()
const act = useMarkerActions()
const playhead = usePlayhead()
const editing = ref<string | null>(null)
/** Outline of a marker: a flag that points at its time. */
const FLAG = 'polygon(0 0, 100% 0, 100% 55%, 50% 100%, 0 55%)'
const dragged = ref<{ id: string; at: number } | null>(null)

const rate = computed(() => project.reel?.format.rate ?? { num: 30, den: 1 })
const markers = computed(() =>
  act
    .markerPlaces()
    .filter(({ clip }) => clip === null)
    .map(({ marker, at }) => {
      const held = dragged.value
      const place = held?.id === marker.id ? held.at : at
      return { marker, x: desk.toX(place), w: desk.toX(place + marker.length) - desk.toX(place) }
    })
    .filter(({ x, w }) => x + w > -8 && x < desk.timelineWidth + 8),
)
const range = computed(() => {
  if (!desk.range) return null
  const x = desk.toX(desk.range.from)
  return { x, w: desk.toX(desk.range.to) - x }
})

/** Follows the pointer in ticks. */
function follow(down: PointerEvent, move: (by: number) => void, done: (moved: boolean) => void): void {
  if (down.button !== 0) return
  down.stopPropagation()
  pointerDrag(down, {
    move: (event) => move(((event.clientX - down.clientX) / desk.pixelsPerSecond) * TICKS_PER_SECOND),
    done: (_event, moved) => done(moved),
    cancel: () => (dragged.value = null),
  })
}

function dragMarker(down: PointerEvent, id: string, from: number): void {
  follow(
    down,
    (by) => (dragged.value = { id, at: Math.max(0, snapToFrame(from + by, rate.value)) }),
    (moved) => {
      const at = dragged.value?.at
      dragged.value = null
      if (!moved) editing.value = editing.value === id ? null : id
      else if (at !== undefined && at !== from) project.perform({ type: 'setMarker', markerId: id, set: { at } })
    },
  )
}

function dragRange(down: PointerEvent, edge: 'from' | 'to' | 'both'): void {
  const start = desk.range!
  follow(
    down,
    (by) => {
      const from = edge === 'to' ? start.from : Math.max(0, snapToFrame(start.from + by, rate.value))
      const to = edge === 'from' ? start.to : snapToFrame(start.to + by, rate.value)
      if (to > from) desk.range = { from, to }
    },
    () => {},
  )
}
</script>

<template>
  <div
    class="pointer-events-none absolute inset-x-0 top-0 overflow-x-clip"
    :style="{ height: `${height}px` }"
    data-testid="markers"
  >
    <div
      v-if="range"
      class="pointer-events-auto absolute bottom-0 h-2 cursor-grab touch-none bg-lamp/60"
      :class="desk.looping && 'bg-lamp'"
      :style="{ left: `${range.x}px`, width: `${range.w}px` }"
      :title="desk.looping ? 'The marked range, looping' : 'The marked range'"
      @pointerdown="dragRange($event, 'both')"
    >
      <span
        class="absolute -left-1 h-3 w-2 -translate-y-1 cursor-ew-resize touch-none rounded-sm bg-lamp"
        @pointerdown="dragRange($event, 'from')"
      />
      <span
        class="absolute -right-1 h-3 w-2 -translate-y-1 cursor-ew-resize touch-none rounded-sm bg-lamp"
        @pointerdown="dragRange($event, 'to')"
      />
    </div>
    <template v-for="{ marker, x, w } in markers" :key="marker.id">
      <div
        v-if="w > 1"
        class="absolute top-0 h-1.5 opacity-50"
        :style="{ left: `${x}px`, width: `${w}px`, background: `var(--color-${marker.colour})` }"
      />
      <button
        class="pointer-events-auto absolute top-0 h-4 w-3 -translate-x-1/2 touch-none"
        :style="{ left: `${x}px`, background: `var(--color-${marker.colour})`, clipPath: FLAG }"
        :aria-label="`Marker ${marker.name}, ${formatTimecode(marker.at, rate)}`"
        :title="[marker.name, marker.note].filter(Boolean).join('\n')"
        @pointerdown="dragMarker($event, marker.id, marker.at)"
        @keydown.enter.prevent="editing = marker.id"
        @keydown.delete.stop="project.perform({ type: 'removeMarkers', markerIds: [marker.id] })"
        @dblclick="playhead.goTo(marker.at)"
      />
      <MarkerCard
        v-if="editing === marker.id"
        class="pointer-events-auto absolute top-6 z-30"
        :style="{ left: `${Math.min(Math.max(0, x - 20), Math.max(0, desk.timelineWidth - 250))}px` }"
        :marker="marker"
        @close="editing = null"
      />
    </template>
  </div>
</template>
