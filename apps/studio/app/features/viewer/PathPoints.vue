<script setup lang="ts">
import type { Clip, Point } from '@dusk/timeline'
import type { ViewerDrag } from './useViewerDrag'

/** Keyframes of a path on the picture, and at those where it bends the two ends that bend it. */
defineProps<{
  keys: readonly { at: number; point: Point; tips: readonly { side: 1 | -1; point: Point }[] }[]
  clip: Clip
  drag: ViewerDrag
}>()
const place = ([x, y]: Point) => ({ left: `${x}px`, top: `${y}px` })
</script>

<template>
  <template v-for="entry in keys" :key="entry.at">
    <svg class="pointer-events-none absolute inset-0 size-full overflow-visible" aria-hidden="true">
      <line
        v-for="tip in entry.tips"
        :key="tip.side"
        :x1="entry.point[0]"
        :y1="entry.point[1]"
        :x2="tip.point[0]"
        :y2="tip.point[1]"
        class="stroke-lamp/70"
      />
    </svg>
    <button
      v-for="tip in entry.tips"
      :key="tip.side"
      class="absolute size-5 -translate-1/2 cursor-move"
      :style="place(tip.point)"
      tabindex="-1"
      aria-label="Bend the path"
      @pointerdown.stop="drag.bendPoint($event, clip, entry.at, tip.side)"
    >
      <span class="m-auto block size-2 rounded-full border border-lamp bg-ground" />
    </button>
    <button
      class="absolute size-5 -translate-1/2 cursor-move"
      :style="place(entry.point)"
      tabindex="-1"
      title="Drag to move; Alt and drag, or a double click, bends the path here"
      aria-label="Move this point of the path"
      @pointerdown.stop="
        $event.altKey ? drag.bendPoint($event, clip, entry.at, 1) : drag.movePoint($event, clip, entry.at)
      "
      @dblclick.stop="drag.toggleBend(clip, entry.at)"
    >
      <span class="m-auto block size-2 rotate-45 bg-lamp" />
    </button>
  </template>
</template>
