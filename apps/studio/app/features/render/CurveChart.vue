<script setup lang="ts">
import { max, min } from 'd3-array'
import { scaleLinear } from 'd3-scale'
import { area, curveMonotoneX, line } from 'd3-shape'
import { computed } from 'vue'
import { formatShort, secondsToTicks } from '@dusk/timeline'

/** A curve over the length of a file, a value for each second; what is missing leaves a gap. */
const props = defineProps<{
  label: string
  values: readonly (number | null)[]
  /** How long the file is: its last second may be a part of one. */
  seconds: number
  /** How a value is written. */
  show: (value: number) => string
  /** Where the scale begins; the least value, when it is left out. */
  floor?: number
  /** A value that a line is drawn at. */
  mark?: number | null
}>()

const [WIDTH, HEIGHT] = [480, 64]
const known = computed(() => props.values.filter((value): value is number => value !== null))
const x = computed(() => scaleLinear([0, Math.max(1, props.values.length - 1)], [0, WIDTH]))
const y = computed(() =>
  scaleLinear([props.floor ?? min(known.value) ?? 0, max([...known.value, props.mark ?? -Infinity]) ?? 1], [HEIGHT, 4]),
)
const points = computed(() => props.values.map((value, i) => [i, value] as const))
const drawn = computed(() => ({
  line:
    line<readonly [number, number | null]>(
      ([i]) => x.value(i),
      ([, value]) => y.value(value!),
    )
      .defined(([, value]) => value !== null)
      .curve(curveMonotoneX)(points.value) ?? '',
  area:
    area<readonly [number, number | null]>(
      ([i]) => x.value(i),
      HEIGHT,
      ([, value]) => y.value(value!),
    )
      .defined(([, value]) => value !== null)
      .curve(curveMonotoneX)(points.value) ?? '',
}))
const summary = computed(() =>
  known.value.length === 0
    ? `${props.label}: nothing`
    : `${props.label}: ${props.show(min(known.value)!)} to ${props.show(max(known.value)!)}`,
)
</script>

<template>
  <figure>
    <figcaption class="flex justify-between text-sm text-muted">
      <span>{{ label }}</span>
      <span v-if="known.length > 0" class="font-mono text-[11px]"
        >{{ show(min(known)!) }} – {{ show(max(known)!) }}</span
      >
    </figcaption>
    <svg
      :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
      preserveAspectRatio="none"
      class="mt-1 h-16 w-full rounded-sm bg-ground"
      role="img"
      :aria-label="summary"
    >
      <path :d="drawn.area" class="fill-raised" />
      <line
        v-if="mark != null"
        x1="0"
        :x2="WIDTH"
        :y1="y(mark)"
        :y2="y(mark)"
        class="stroke-lamp"
        stroke-dasharray="4 4"
      />
      <path :d="drawn.line" class="fill-none stroke-ivory" stroke-width="1.5" vector-effect="non-scaling-stroke" />
    </svg>
    <div class="flex justify-between font-mono text-[10px] text-muted">
      <span>0:00</span><span>{{ formatShort(secondsToTicks(seconds)) }}</span>
    </div>
  </figure>
</template>
