<script setup lang="ts">
import { ref, watch } from 'vue'
import { pointerDrag } from './pointerDrag'
import { evaluate } from './expression'
import { useNotices } from './noticesStore'

/** Beyond this nobody means what was typed; less than that is held within the field's range. */
const ABSURD = 1e9

/** A number that is typed (sums allowed), dragged sideways, stepped by arrow keys, and reset by a double click. */
const props = withDefaults(
  defineProps<{
    label: string
    value: number
    unit?: string
    min?: number
    max?: number
    step?: number
    digits?: number
    initial?: number
    disabled?: boolean
  }>(),
  { unit: '', min: -Infinity, max: Infinity, step: 1, digits: 0, initial: 0 },
)
const emit = defineEmits<{
  change: [value: number]
  /** What is under the pointer while it is dragged. */
  try: [value: number]
}>()

const unitBehind = () => (props.unit ? ` ${props.unit}` : '')
const show = (value: number) => `${Number(value.toFixed(props.digits))}`
const text = ref(show(props.value))
const editing = ref(false)
const wrong = ref(false)
/** Value under the pointer while it is dragged; kept once, when the drag ends. */
const dragged = ref<number | null>(null)
watch(
  () => props.value,
  (value) => {
    if (!editing.value) text.value = show(value)
  },
)

const hold = (value: number) => Number(Math.min(props.max, Math.max(props.min, value)).toFixed(props.digits))

function commit(value: number): void {
  const held = hold(value)
  text.value = show(held)
  wrong.value = false
  if (held !== props.value) emit('change', held)
}

function leave(): void {
  editing.value = false
  const value = evaluate(text.value)
  const absurd = value !== null && Math.abs(value) > ABSURD
  if (absurd)
    useNotices().warn(`${props.label}: that number is too large. It stays ${show(props.value)}${unitBehind()}.`)
  if (value === null || absurd) {
    text.value = show(props.value)
    wrong.value = false
  } else commit(value)
}

function type(event: Event): void {
  text.value = (event.target as HTMLInputElement).value
  wrong.value = evaluate(text.value) === null
}

function arrow(event: KeyboardEvent): void {
  const direction = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0
  if (direction === 0) return
  event.preventDefault()
  commit((evaluate(text.value) ?? props.value) + direction * props.step * (event.shiftKey ? 10 : 1))
}

function drag(down: PointerEvent): void {
  if (props.disabled) return
  const start = props.value
  const move = (event: PointerEvent) => {
    dragged.value = hold(start + (event.clientX - down.clientX) * props.step * (event.shiftKey ? 10 : 1))
    text.value = show(dragged.value)
    emit('try', dragged.value)
  }
  const put = () => {
    if (dragged.value !== null) commit(dragged.value)
  }
  const back = () => (text.value = show(props.value))
  pointerDrag(down, { move, done: put, cancel: back, end: () => (dragged.value = null) })
}
</script>

<template>
  <label class="grid grid-cols-[84px_minmax(0,1fr)] items-center gap-2">
    <span
      class="cursor-ew-resize touch-none truncate text-muted select-none"
      :title="`Drag to change, double-click for ${initial} ${unit}`"
      @pointerdown="drag"
      @dblclick.prevent="commit(initial)"
      >{{ label }}</span
    >
    <span class="relative">
      <input
        class="field pr-8 font-mono text-[11px]"
        :class="wrong && 'border-rose'"
        :value="text"
        :disabled="disabled"
        :aria-label="`${label}${unit ? `, in ${unit}` : ''}`"
        :aria-invalid="wrong"
        inputmode="decimal"
        @focus="((editing = true), ($event.target as HTMLInputElement).select())"
        @input="type"
        @blur="leave"
        @keydown.enter="($event.target as HTMLInputElement).blur()"
        @keydown="arrow"
        @keydown.stop
      />
      <span class="pointer-events-none absolute top-1/2 right-2 -translate-y-1/2 font-mono text-[10px] text-muted">{{
        unit
      }}</span>
    </span>
  </label>
</template>
