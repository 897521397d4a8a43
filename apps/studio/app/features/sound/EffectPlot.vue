<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear, scaleLog } from 'd3-scale'
import { line } from 'd3-shape'
import { computed, ref } from 'vue'
import { EQUALISER_BANDS, type SoundEffectKind } from '@dusk/sound'
import { resolveParams, type Params } from '@dusk/timeline'
import { pointerDrag } from '~/features/ui/pointerDrag'

/**
 * What an effect does, as a curve: loudness by frequency of filters, over the live spectrum, with the points of an
 * equaliser to be dragged; level out by level in of what works on levels, with how much it holds down just now.
 */
const props = defineProps<{
  kind: SoundEffectKind
  settings: Params
  /** Clip or reel time at which settings with keyframes are shown. */
  time?: number
  spectrum?: readonly number[] | null
  /** Decibels held down at this moment. */
  reduction?: number
  small?: boolean
}>()
const emit = defineEmits<{ change: [patch: Record<string, number>] }>()

const box = ref<HTMLElement | null>(null)
const { width, height } = useElementSize(box)
const dragged = ref<Record<string, number>>({})
const resolved = computed(() => ({
  ...resolveParams(props.kind.params, props.settings, props.time ?? 0),
  ...dragged.value,
}))

const RANGE = 26
const HZ = [50, 100, 200, 500, 1000, 2000, 5000, 10_000]
const LEVELS = [-60, -48, -36, -24, -12, 0]
const byHz = computed(() => scaleLog().domain([20, 20_000]).range([0, width.value]))
const byGain = computed(() => scaleLinear().domain([RANGE, -RANGE]).range([0, height.value]))
const byLevel = computed(() => scaleLinear().domain([-60, 0]).range([0, width.value]))
const outLevel = computed(() => scaleLinear().domain([0, -60]).range([0, height.value]))

const curve = computed(() => {
  if (width.value === 0) return ''
  const { kind } = props
  const steps = Array.from({ length: 97 }, (_, i) => i / 96)
  if (kind.response) {
    const at = kind.response(resolved.value)
    const draw = line<number>()
      .x((t) => t * width.value)
      .y((t) => byGain.value(Math.max(-60, at(20 * 1000 ** t))))
    return draw(steps) ?? ''
  }
  const out = kind.transfer!(resolved.value)
  const draw = line<number>()
    .x((t) => t * width.value)
    .y((t) => outLevel.value(Math.max(-72, out(-60 + 60 * t))))
  return draw(steps) ?? ''
})
const sound = computed(() => {
  if (!props.spectrum || !props.kind.response || width.value === 0) return ''
  const y = scaleLinear().domain([0, -90]).range([0, height.value]).clamp(true)
  const n = props.spectrum.length - 1
  const draw = line<number>()
    .x((_, i) => (i / n) * width.value)
    .y((db) => y(db))
  return `${draw(props.spectrum)}L${width.value} ${height.value}L0 ${height.value}Z`
})
const bands = computed(() =>
  props.kind.id !== 'equaliser' || props.small
    ? []
    : Array.from({ length: EQUALISER_BANDS }, (_, i) => ({
        n: i + 1,
        x: byHz.value(Number(resolved.value[`hz${i + 1}`])),
        y: byGain.value(Number(resolved.value[`gain${i + 1}`])),
      })),
)
const words = (n: number) =>
  `${Math.round(Number(resolved.value[`hz${n}`]))} Hz, ${Number(resolved.value[`gain${n}`]).toFixed(1)} dB`

function drag(down: PointerEvent, n: number): void {
  if (down.button !== 0) return
  const area = box.value!.getBoundingClientRect()
  const move = (event: PointerEvent) => {
    const hold = (value: number, least: number, most: number) => Math.min(Math.max(value, least), most)
    dragged.value = {
      [`hz${n}`]: Math.round(hold(byHz.value.invert(event.clientX - area.left), 20, 20_000)),
      [`gain${n}`]: Math.round(hold(byGain.value.invert(event.clientY - area.top), -24, 24) * 10) / 10,
    }
  }
  pointerDrag(down, {
    move,
    done: (_, moved) => moved && emit('change', dragged.value),
    end: () => (dragged.value = {}),
  })
}
/** The wheel over a point makes its band wider or narrower; arrow keys move it. */
function widen(event: WheelEvent, n: number): void {
  const now = Number(resolved.value[`q${n}`])
  const next = Math.min(18, Math.max(0.1, now * Math.exp(event.deltaY * 0.002)))
  emit('change', { [`q${n}`]: Math.round(next * 100) / 100 })
}
function nudge(event: KeyboardEvent, n: number): void {
  const by = { ArrowUp: [0, 0.5], ArrowDown: [0, -0.5], ArrowLeft: [1 / 1.06, 0], ArrowRight: [1.06, 0] }[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  if (by[0])
    emit('change', { [`hz${n}`]: Math.min(20_000, Math.max(20, Math.round(Number(resolved.value[`hz${n}`]) * by[0]))) })
  else emit('change', { [`gain${n}`]: Math.min(24, Math.max(-24, Number(resolved.value[`gain${n}`]) + by[1]!)) })
}
</script>

<template>
  <div ref="box" class="relative overflow-hidden" :class="!small && 'rounded-md border border-line bg-ground'">
    <svg class="absolute inset-0 size-full" aria-hidden="true">
      <template v-if="!small">
        <template v-if="kind.response">
          <line v-for="hz in HZ" :key="hz" :x1="byHz(hz)" :x2="byHz(hz)" y1="0" y2="100%" class="stroke-line" />
          <line
            v-for="db in [-12, 0, 12]"
            :key="db"
            :y1="byGain(db)"
            :y2="byGain(db)"
            x1="0"
            x2="100%"
            class="stroke-line"
          />
        </template>
        <template v-else>
          <line
            v-for="db in LEVELS"
            :key="db"
            :x1="byLevel(db)"
            :x2="byLevel(db)"
            y1="0"
            y2="100%"
            class="stroke-line"
          />
          <line x1="0" :y1="height" :x2="width" y2="0" class="stroke-line" />
        </template>
      </template>
      <path v-if="sound" :d="sound" class="fill-line/80" />
      <path :d="curve" class="fill-none stroke-ivory" :stroke-width="small ? 1 : 1.5" />
    </svg>
    <template v-if="!small">
      <span
        v-for="hz in kind.response ? [100, 1000, 10_000] : []"
        :key="hz"
        class="pointer-events-none absolute bottom-0 -translate-x-1/2 font-mono text-[9px] text-muted"
        :style="{ left: `${byHz(hz)}px` }"
        >{{ hz >= 1000 ? `${hz / 1000}k` : hz }}</span
      >
      <div v-if="reduction !== undefined && !kind.response" class="absolute inset-y-0 right-0 w-1.5 bg-line">
        <div class="w-full bg-rose" :style="{ height: `${Math.min(100, (-reduction / 24) * 100)}%` }" />
      </div>
      <span
        v-if="reduction !== undefined && !kind.response"
        class="absolute right-2.5 bottom-0.5 font-mono text-[10px] text-muted"
        >{{ reduction < -0.05 ? `−${(-reduction).toFixed(1)} dB` : '0 dB' }}</span
      >
      <button
        v-for="band in bands"
        :key="band.n"
        class="absolute grid size-6 -translate-1/2 cursor-grab touch-none place-items-center"
        :style="{ left: `${band.x}px`, top: `${band.y}px` }"
        :aria-label="`Band ${band.n}: ${words(band.n)}`"
        :title="`${words(band.n)}. Drag; the wheel makes it wider or narrower.`"
        @pointerdown="drag($event, band.n)"
        @wheel.prevent="widen($event, band.n)"
        @keydown="nudge($event, band.n)"
        @dblclick="emit('change', { [`gain${band.n}`]: 0 })"
      >
        <span class="size-2.5 rounded-full bg-lamp" />
      </button>
    </template>
  </div>
</template>
