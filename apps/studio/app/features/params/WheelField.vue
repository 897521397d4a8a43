<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Point, PointParam } from '@dusk/timeline'
import { pointerDrag } from '~/features/ui/pointerDrag'

/** A tint as a point on a disc of colours: blue to the right, red upwards, nothing in the middle. */
const props = defineProps<{ param: PointParam; value: Point }>()
const emit = defineEmits<{ change: [value: Point]; try: [value: Point] }>()
const disc = ref<HTMLElement | null>(null)
const dragged = ref<Point | null>(null)
const shown = computed(() => dragged.value ?? props.value)

/** Held inside the disc, whole numbers. */
function held([x, y]: Point): Point {
  const far = Math.hypot(x, y)
  const by = far > 100 ? 100 / far : 1
  return [Math.round(x * by), Math.round(y * by)]
}
/** The point goes as far as the pointer does, more slowly with Shift: small tints are what is wanted most. */
function drag(down: PointerEvent): void {
  if (down.button !== 0) return
  const { width } = disc.value!.getBoundingClientRect()
  const [fromX, fromY] = props.value
  pointerDrag(down, {
    slack: 1,
    move(event) {
      const per = (200 / width) * (event.shiftKey ? 0.2 : 0.5)
      dragged.value = held([fromX + (event.clientX - down.clientX) * per, fromY - (event.clientY - down.clientY) * per])
      emit('try', dragged.value)
    },
    done: (_, moved) => moved && dragged.value && emit('change', dragged.value),
    cancel: () => emit('try', props.value),
    end: () => (dragged.value = null),
  })
}
function nudge(event: KeyboardEvent): void {
  const by = { ArrowUp: [0, 1], ArrowDown: [0, -1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] }[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  const step = event.shiftKey ? 10 : 1
  emit('change', held([props.value[0] + by[0]! * step, props.value[1] + by[1]! * step]))
}
</script>

<template>
  <div class="flex min-w-0 flex-1 items-center gap-2">
    <button
      ref="disc"
      class="relative size-20 shrink-0 touch-none rounded-full border border-line"
      style="
        background:
          radial-gradient(circle, #6a6470 0%, transparent 70%),
          conic-gradient(
            from 90deg,
            #4b55b8,
            #7d8c3a 25%,
            #3f7d52 40%,
            #3f7d52 50%,
            #8a8a34 60%,
            #b8473f 75%,
            #9a4aa0 88%,
            #4b55b8
          );
      "
      :aria-label="`${param.label}: ${shown[0]} across, ${shown[1]} up`"
      title="Drag to tint; with Shift finely; a double click takes it back"
      @pointerdown="drag"
      @dblclick="emit('change', [0, 0])"
      @keydown="nudge"
    >
      <span
        class="absolute size-2.5 -translate-1/2 rounded-full border border-ground bg-lamp"
        :style="{ left: `${50 + shown[0] / 2}%`, top: `${50 - shown[1] / 2}%` }"
      />
    </button>
    <span class="min-w-0 text-muted">
      {{ param.label }}<br />
      <span class="font-mono text-[11px]">{{ shown[0] }}, {{ shown[1] }}</span>
    </span>
  </div>
</template>
