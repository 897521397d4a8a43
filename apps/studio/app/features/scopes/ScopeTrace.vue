<script setup lang="ts">
import { scaleLinear, scaleSqrt } from 'd3-scale'
import { area } from 'd3-shape'
import { computed, onMounted, ref, watch } from 'vue'
import { SCOPE_SIZE, type Scopes } from '@dusk/compositor'

/** One scope: its counts as light, over a grid with its numbers. */
const props = defineProps<{ kind: 'luma' | 'parade' | 'vector' | 'histogram'; label: string; scopes: Scopes | null }>()
const { columns, levels, vector: side } = SCOPE_SIZE
const canvas = ref<HTMLCanvasElement | null>(null)
const size = computed(() =>
  props.kind === 'vector'
    ? { width: side, height: side }
    : { width: props.kind === 'parade' ? columns * 3 : columns, height: levels },
)
/** Colours of luma, red, green and blue, as the theme has them. */
const TONES = ['--color-ivory', '--color-rose', '--color-moss', '--color-dusk'] as const
const toneOf = (name: string): [number, number, number] => {
  const text = getComputedStyle(document.documentElement).getPropertyValue(name).trim().slice(1)
  const value = Number.parseInt(text || 'f3ece2', 16)
  return [value >> 16, (value >> 8) & 255, value & 255]
}

function draw(): void {
  const context = canvas.value?.getContext('2d')
  if (!context || props.kind === 'histogram') return
  const { width, height } = size.value
  const image = context.createImageData(width, height)
  const { scopes } = props
  if (scopes) {
    const put = (x: number, y: number, count: number, most: number, [r, g, b]: readonly number[]) => {
      if (count === 0) return
      const i = (y * width + x) * 4
      image.data[i] = r!
      image.data[i + 1] = g!
      image.data[i + 2] = b!
      image.data[i + 3] = 40 + 215 * Math.min(1, Math.sqrt(count / most))
    }
    if (props.kind === 'vector') {
      const most = Math.max(8, ...scopes.vector) / 6
      const ivory = toneOf(TONES[0])
      for (let i = 0; i < side * side; i++) put(i % side, Math.floor(i / side), scopes.vector[i]!, most, ivory)
    } else {
      const planes = props.kind === 'luma' ? [0] : [1, 2, 3]
      for (const [k, plane] of planes.entries()) {
        const tone = toneOf(TONES[plane]!)
        for (let x = 0; x < columns; x++)
          for (let level = 0; level < levels; level++) {
            const count = scopes.waveform[(plane * columns + x) * levels + level]!
            // What has nothing left stands out.
            const edge = level >= levels - 1 || level === 0
            put(k * columns + x, levels - 1 - level, count, 40, edge ? toneOf('--color-rose') : tone)
          }
      }
    }
  }
  context.putImageData(image, 0, 0)
}
watch(() => props.scopes, draw)
onMounted(draw)

/** The histogram is drawn as areas, on a root scale so that small counts are seen. */
const paths = computed(() => {
  const { scopes } = props
  if (props.kind !== 'histogram' || !scopes) return []
  const x = scaleLinear().domain([0, 255]).range([0, 160])
  return TONES.map((tone, plane) => {
    const counts = Array.from(scopes.histogram.subarray(plane * 256, plane * 256 + 256))
    const y = scaleSqrt()
      .domain([0, Math.max(1, ...counts.slice(1, 255))])
      .range([90, 4])
      .clamp(true)
    const shape = area<number>()
      .x((_, i) => x(i))
      .y0(90)
      .y1((count) => y(count))
    return { tone, path: shape(counts) ?? '' }
  })
})
const RULES = [0, 25, 50, 75, 100]
/** The direction of skin, whatever its shade, in degrees from blue to the right towards red above. */
const SKIN = 123
const skin = { x: 50 + 50 * Math.cos((SKIN * Math.PI) / 180), y: 50 - 50 * Math.sin((SKIN * Math.PI) / 180) }
const CORNERS = [
  ['R', 191, 0, 0],
  ['Yl', 191, 191, 0],
  ['G', 0, 191, 0],
  ['Cy', 0, 191, 191],
  ['B', 0, 0, 191],
  ['Mg', 191, 0, 191],
].map(([name, r, g, b]) => {
  const [red, green, blue] = [Number(r), Number(g), Number(b)]
  const cb = -0.1146 * red - 0.3854 * green + 0.5 * blue
  const cr = 0.5 * red - 0.4542 * green - 0.0458 * blue
  return { name, x: ((cb + 128) / 256) * 100, y: 100 - ((cr + 128) / 256) * 100 }
})
</script>

<template>
  <figure class="m-0">
    <figcaption class="text-sm text-muted">{{ label }}</figcaption>
    <div
      class="relative overflow-hidden rounded-md border border-line bg-ground"
      :class="kind === 'vector' ? 'aspect-square' : 'aspect-video'"
    >
      <svg class="absolute inset-0 size-full" viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden="true">
        <template v-if="kind === 'vector'">
          <circle cx="50" cy="50" r="49" class="fill-none stroke-line" vector-effect="non-scaling-stroke" />
          <line x1="50" y1="0" x2="50" y2="100" class="stroke-line" vector-effect="non-scaling-stroke" />
          <line x1="0" y1="50" x2="100" y2="50" class="stroke-line" vector-effect="non-scaling-stroke" />
          <line
            x1="50"
            y1="50"
            :x2="skin.x"
            :y2="skin.y"
            class="stroke-ember"
            stroke-dasharray="3 2"
            vector-effect="non-scaling-stroke"
          />
        </template>
        <template v-else-if="kind !== 'histogram'">
          <line
            v-for="level in RULES"
            :key="level"
            x1="0"
            x2="100"
            :y1="100 - level"
            :y2="100 - level"
            class="stroke-line"
            vector-effect="non-scaling-stroke"
          />
        </template>
      </svg>
      <svg
        v-if="kind === 'histogram'"
        class="absolute inset-0 size-full"
        viewBox="0 0 160 90"
        preserveAspectRatio="none"
      >
        <path
          v-for="{ tone, path } in paths"
          :key="tone"
          :d="path"
          :style="{ fill: `var(${tone})`, fillOpacity: tone === '--color-ivory' ? 0.25 : 0.45 }"
        />
      </svg>
      <canvas v-else ref="canvas" class="absolute inset-0 size-full" :width="size.width" :height="size.height" />
      <template v-if="kind === 'luma' || kind === 'parade'">
        <span
          v-for="level in [0, 50, 100]"
          :key="level"
          class="absolute left-0.5 -translate-y-1/2 font-mono text-[8px] text-muted"
          :style="{ top: `${Math.min(94, Math.max(6, 100 - level))}%` }"
          >{{ level }}</span
        >
      </template>
      <template v-if="kind === 'vector'">
        <span
          v-for="corner in CORNERS"
          :key="corner.name"
          class="absolute -translate-1/2 font-mono text-[8px] text-muted"
          :style="{ left: `${corner.x}%`, top: `${corner.y}%` }"
          >{{ corner.name }}</span
        >
      </template>
    </div>
  </figure>
</template>
