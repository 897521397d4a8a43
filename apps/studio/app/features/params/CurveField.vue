<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear, scaleSqrt } from 'd3-scale'
import { area, line } from 'd3-shape'
import { computed, onScopeDispose, ref } from 'vue'
import { curveText, curveThrough, type CurveParam, type Point } from '@dusk/timeline'
import { usePlayer } from '~/features/player/usePlayhead'
import { pointerDrag } from '~/features/ui/pointerDrag'
import { addedPoint, movedPoint, pointsShown, restingPoints } from './curvePoints'

/** A curve, drawn over the picture's own histogram: points are dragged, put in by a click on the line, taken out. */
const props = defineProps<{ param: CurveParam; value: string }>()
const emit = defineEmits<{ change: [value: string]; try: [value: string] }>()
const player = usePlayer()
const box = ref<HTMLElement | null>(null)
const { width, height } = useElementSize(box)
const dragged = ref<Point[] | null>(null)
const points = computed(() => dragged.value ?? pointsShown(props.param.over, props.value))
const x = computed(() => scaleLinear().domain([0, 1]).range([0, width.value]))
const y = computed(() => scaleLinear().domain([0, 1]).range([height.value, 0]))

const curve = computed(() => {
  if (width.value === 0) return ''
  const at = curveThrough(points.value, props.param.over === 'hue')
  const draw = line<number>()
    .x((t) => x.value(t))
    .y((t) => y.value(Math.min(1, Math.max(0, at(t)))))
  return draw(Array.from({ length: 97 }, (_, i) => i / 96)) ?? ''
})
/** Which counts lie behind it: those of its own channel. */
const PLANES: Record<string, number> = { luma: 0, red: 1, green: 2, blue: 3, lumaSaturation: 0 }
const histogram = computed(() => {
  const plane = PLANES[props.param.key]
  const counts = player.scopes.value?.histogram
  if (plane === undefined || !counts || width.value === 0) return ''
  const own = Array.from(counts.subarray(plane * 256, plane * 256 + 256))
  const up = scaleSqrt()
    .domain([0, Math.max(1, ...own.slice(1, 255))])
    .range([height.value, height.value * 0.1])
    .clamp(true)
  const shape = area<number>()
    .x((_, i) => x.value(i / 255))
    .y0(height.value)
    .y1((count) => up(count))
  return shape(own) ?? ''
})
onScopeDispose(player.watchScopes())

const HUES = 'linear-gradient(90deg, #c0504d, #b9a145, #5fa05a, #4a9c9c, #5468b8, #a4559e, #c0504d)'
const place = (event: PointerEvent): Point => {
  const area = box.value!.getBoundingClientRect()
  const round = (value: number) => Math.round(Math.min(1, Math.max(0, value)) * 1000) / 1000
  return [round(x.value.invert(event.clientX - area.left)), round(y.value.invert(event.clientY - area.top))]
}
const textOf = (list: readonly Point[]) => {
  const text = curveText(list)
  return text === curveText(restingPoints(props.param.over)) ? '' : text
}

function drag(down: PointerEvent, index: number, from: readonly Point[] = points.value): void {
  if (down.button !== 0) return
  pointerDrag(down, {
    slack: 1,
    move(event) {
      dragged.value = movedPoint(from, index, place(event))
      emit('try', textOf(dragged.value))
    },
    done: (_, moved) => {
      if (moved || from !== points.value) emit('change', textOf(dragged.value ?? from))
    },
    cancel: () => emit('try', props.value),
    end: () => (dragged.value = null),
  })
}
function press(down: PointerEvent): void {
  if (down.button !== 0) return
  const added = addedPoint(points.value, place(down))
  if (added) drag(down, added.index, added.points)
}
function remove(index: number): void {
  if (points.value.length > 2) emit('change', textOf(points.value.filter((_, i) => i !== index)))
}
function nudge(event: KeyboardEvent, index: number): void {
  if (event.key === 'Delete' || event.key === 'Backspace') remove(index)
  else {
    const by = { ArrowUp: [0, 0.01], ArrowDown: [0, -0.01], ArrowLeft: [-0.01, 0], ArrowRight: [0.01, 0] }[event.key]
    if (!by) return
    const [px, py] = points.value[index]!
    emit('change', textOf(movedPoint(points.value, index, [px + by[0]!, py + by[1]!])))
  }
  event.preventDefault()
  event.stopPropagation()
}
const words = ([px, py]: Point) => `${Math.round(px * 100)} to ${Math.round(py * 100)}`
</script>

<template>
  <div class="min-w-0 flex-1">
    <div class="flex h-6 items-center">
      <span class="min-w-0 flex-1 truncate text-muted">{{ param.label }}</span>
      <button
        v-if="value"
        class="key h-5 px-1 text-sm text-muted"
        :aria-label="`Reset ${param.label}`"
        @click="emit('change', '')"
      >
        reset
      </button>
    </div>
    <div
      ref="box"
      class="relative h-28 touch-none overflow-hidden rounded-md border border-line bg-ground"
      role="group"
      :aria-label="`Curve: ${param.label}`"
      @pointerdown="press"
    >
      <svg class="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
        <path v-if="histogram" :d="histogram" class="fill-line/80" />
        <line v-for="t in [0.25, 0.5, 0.75]" :key="t" :x1="x(t)" :x2="x(t)" y1="0" y2="100%" class="stroke-line" />
        <line v-for="t in [0.25, 0.5, 0.75]" :key="-t" x1="0" x2="100%" :y1="y(t)" :y2="y(t)" class="stroke-line" />
        <path :d="curve" class="fill-none" stroke-width="1.5" :style="{ stroke: param.tint ?? 'var(--color-ivory)' }" />
      </svg>
      <span
        v-if="param.over === 'hue'"
        class="pointer-events-none absolute inset-x-0 bottom-0 h-1.5"
        :style="{ background: HUES }"
      />
      <button
        v-for="(point, i) in points"
        :key="i"
        class="absolute size-6 -translate-1/2 cursor-move"
        :style="{ left: `${x(point[0])}px`, top: `${y(point[1])}px` }"
        :aria-label="`Point of ${param.label}: ${words(point)}`"
        :title="`${words(point)}. Double-click takes it out.`"
        @pointerdown.stop="drag($event, i)"
        @dblclick.stop="remove(i)"
        @contextmenu.prevent.stop="remove(i)"
        @keydown="nudge($event, i)"
      >
        <span class="m-auto block size-2 rounded-full border border-ground bg-lamp" />
      </button>
    </div>
  </div>
</template>
