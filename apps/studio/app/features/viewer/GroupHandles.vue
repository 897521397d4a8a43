<script setup lang="ts">
import { computed } from 'vue'
import { boundsOf, type Outline } from '~/features/timeline/outlines'
import type { ViewerDrag } from './useViewerDrag'

/** Handles of several pictures together: size and turn, about the middle of all of them. */
const props = defineProps<{
  outlines: readonly Outline[]
  scale: number
  drag: ViewerDrag
  frame: () => DOMRect
}>()
const box = computed(() => {
  const boxes = props.outlines.map(boundsOf)
  const left = Math.min(...boxes.map((one) => one.left)) * props.scale
  const top = Math.min(...boxes.map((one) => one.top)) * props.scale
  const right = Math.max(...boxes.map((one) => one.right)) * props.scale
  const bottom = Math.max(...boxes.map((one) => one.bottom)) * props.scale
  return { left, top, width: right - left, height: bottom - top }
})
const corners = computed(() => {
  const { left, top, width, height } = box.value
  return [
    [left, top],
    [left + width, top],
    [left + width, top + height],
    [left, top + height],
  ] as const
})
const knob = computed(() => ({
  left: box.value.left + box.value.width / 2,
  top: box.value.top < 34 ? box.value.top + 26 : box.value.top - 26,
}))

function grip(event: PointerEvent, what: 'size' | 'turn'): void {
  if (event.button !== 0) return
  if (what === 'size') props.drag.resizeAll(event, props.outlines, props.frame())
  else props.drag.rotateAll(event, props.outlines, props.frame())
}
</script>

<template>
  <div
    class="pointer-events-none absolute border border-dashed border-dusk"
    :style="{ left: `${box.left}px`, top: `${box.top}px`, width: `${box.width}px`, height: `${box.height}px` }"
  />
  <button
    v-for="([x, y], i) in corners"
    :key="i"
    class="absolute size-6 -translate-1/2 cursor-nwse-resize"
    :style="{ left: `${x}px`, top: `${y}px` }"
    tabindex="-1"
    :aria-label="`Make them larger or smaller, corner ${i + 1}`"
    @pointerdown.stop="grip($event, 'size')"
  >
    <span class="m-auto block size-2.5 rounded-xs border border-ground bg-dusk" />
  </button>
  <button
    class="absolute size-6 -translate-1/2 cursor-grab"
    :style="{ left: `${knob.left}px`, top: `${knob.top}px` }"
    tabindex="-1"
    aria-label="Turn them"
    @pointerdown.stop="grip($event, 'turn')"
  >
    <span class="m-auto block size-2.5 rounded-full border border-ground bg-dusk" />
  </button>
</template>
