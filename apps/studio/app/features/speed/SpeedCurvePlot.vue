<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear, scaleLog } from 'd3-scale'
import { line } from 'd3-shape'
import { computed, ref, shallowRef } from 'vue'
import { formatSeconds, speedAt, type Clip, type CommandInput, type SpeedPoint } from '@dusk/timeline'
import { pointerDrag } from '~/features/ui/pointerDrag'
import { useProject } from '~/features/project/projectStore'
import { tried as triedOn } from '~/features/project/tried'
import { useDesk } from '~/features/timeline/deskStore'

/** The curve of a clip's speed, with its points: dragged, added by a double click, removed, shaped. */
const props = defineProps<{ clip: Clip }>()
const project = useProject()
const desk = useDesk()
const box = ref<HTMLElement | null>(null)
const { width, height } = useElementSize(box)
const tried = shallowRef<readonly SpeedPoint[] | null>(null)
const words = ref('')
const chosen = ref<number | null>(null)
const LINES = [0.25, 1, 4]
const EASES = [
  { value: 'linear', label: 'Even' },
  { value: 'smooth', label: 'Slow start and end' },
  { value: 'hold', label: 'Stay, then jump' },
] as const

const own = computed(() => (props.clip.map.kind === 'ramp' ? props.clip.map.points : []))
const points = computed(() => tried.value ?? own.value)
const end = computed(() => props.clip.head + props.clip.length)
const x = computed(() =>
  scaleLinear()
    .domain([props.clip.head, Math.max(end.value, points.value.at(-1)?.at ?? 0)])
    .range([6, width.value - 6]),
)
const y = computed(() =>
  scaleLog()
    .domain([0.08, 12])
    .range([height.value - 6, 6])
    .clamp(true),
)
const path = computed(() => {
  if (width.value === 0 || points.value.length === 0) return ''
  const [from, to] = x.value.domain() as [number, number]
  const map = { kind: 'ramp' as const, source: 0, backwards: false, points: [...points.value] }
  const draw = line<number>()
    .x((t) => x.value(from + (to - from) * t))
    .y((t) => y.value(speedAt(map, from + (to - from) * t)))
  return draw(Array.from({ length: 121 }, (_, i) => i / 120))!
})
const percent = (speed: number) => `${Math.round(speed * 100)} %`

const command = (next: readonly SpeedPoint[]): CommandInput => ({
  type: 'setSpeedCurve',
  clipId: props.clip.id,
  points: [...next],
  scope: desk.scope,
  linked: desk.linked,
})
/** How long the clip would be along a curve. */
function lengthOf(next: readonly SpeedPoint[]): number | null {
  return triedOn(project.document!, command(next))?.project.clips[props.clip.id]!.length ?? null
}
const keep = (next: readonly SpeedPoint[]) => project.perform(command(next))

function drag(down: PointerEvent, index: number): void {
  if (down.button !== 0) return
  chosen.value = index
  const point = own.value[index]!
  const area = box.value!.getBoundingClientRect()
  const [least, most] = [
    (own.value[index - 1]?.at ?? -Infinity) + 1_000_000,
    (own.value[index + 1]?.at ?? Infinity) - 1_000_000,
  ]
  let next = own.value
  pointerDrag(down, {
    move: (event) => {
      const at = event.shiftKey ? point.at : Math.round(x.value.invert(event.clientX - area.left))
      const speed = Math.min(20, Math.max(0.05, y.value.invert(event.clientY - area.top)))
      // Near its own speed it sticks to it.
      const stuck = Math.abs(Math.log2(speed)) < 0.09 ? 1 : Math.round(speed * 100) / 100
      next = own.value.map((entry, i) =>
        i === index ? { ...entry, at: Math.min(Math.max(at, least), most), speed: stuck } : entry,
      )
      tried.value = next
      const length = lengthOf(next)
      const outcome = length === null ? 'no room for that' : `plays for ${formatSeconds(length)}`
      words.value = `${percent(stuck)}, ${outcome}`
    },
    done: (_, moved) => moved && keep(next),
    end: () => {
      tried.value = null
      words.value = ''
    },
  })
}
function add(event: MouseEvent): void {
  const area = box.value!.getBoundingClientRect()
  const at = Math.round(x.value.invert(event.clientX - area.left))
  if (own.value.some((point) => Math.abs(point.at - at) < 1_000_000)) return
  const speed = Math.round(Math.abs(speedAt(props.clip.map, at)) * 100) / 100
  keep([...own.value, { at, speed: Math.max(0.05, speed), ease: 'smooth' as const }].sort((a, b) => a.at - b.at))
}
function remove(index: number): void {
  chosen.value = null
  keep(own.value.filter((_, i) => i !== index))
}
function onKey(event: KeyboardEvent, index: number): void {
  const step = { ArrowUp: 1.05, ArrowDown: 1 / 1.05 }[event.key]
  if (event.key === 'Delete' || event.key === 'Backspace') remove(index)
  else if (step)
    keep(
      own.value.map((entry, i) =>
        i === index ? { ...entry, speed: Math.min(100, Math.max(0.05, entry.speed * step)) } : entry,
      ),
    )
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <div>
    <div
      ref="box"
      class="relative h-28 touch-none overflow-hidden rounded-md border border-line bg-ground"
      title="Double-click to set a point"
      @dblclick="add"
    >
      <svg class="absolute inset-0 size-full" aria-hidden="true">
        <line
          v-for="speed in LINES"
          :key="speed"
          x1="0"
          x2="100%"
          :y1="y(speed)"
          :y2="y(speed)"
          :class="speed === 1 ? 'stroke-muted/60' : 'stroke-line'"
        />
        <path :d="path" class="fill-none stroke-ivory" stroke-width="1.5" />
      </svg>
      <span
        v-for="speed in LINES"
        :key="speed"
        class="pointer-events-none absolute left-1 -translate-y-1/2 font-mono text-[8px] text-muted"
        :style="{ top: `${y(speed)}px` }"
        >{{ percent(speed) }}</span
      >
      <button
        v-for="(point, i) in points"
        :key="i"
        class="absolute grid size-6 -translate-1/2 cursor-grab touch-none place-items-center"
        :style="{ left: `${x(point.at)}px`, top: `${y(point.speed)}px` }"
        :aria-label="`Point ${i + 1} of the speed curve, ${percent(point.speed)}`"
        :title="`${percent(point.speed)}. Drag; Shift holds its time; double-click removes it.`"
        @pointerdown="drag($event, i)"
        @dblclick.stop="remove(i)"
        @keydown="onKey($event, i)"
        @focus="chosen = i"
      >
        <span class="size-2.5 rounded-full" :class="chosen === i ? 'bg-ember' : 'bg-lamp'" />
      </button>
    </div>
    <p class="h-5 text-sm text-muted" role="status">{{ words }}</p>
    <ChoiceField
      v-if="chosen !== null && own[chosen] && chosen < own.length - 1"
      label="… from here"
      :value="own[chosen]!.ease"
      :options="EASES"
      @change="keep(own.map((entry, i) => (i === chosen ? { ...entry, ease: $event } : entry)))"
    />
  </div>
</template>
