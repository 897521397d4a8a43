<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { line as polyline } from 'd3-shape'
import { computed, ref } from 'vue'
import {
  easeCurve,
  easeKey,
  moveKey,
  putKey,
  valueAt,
  type Animated,
  type Clip,
  type Curve,
  type Key,
  type Point,
} from '@dusk/timeline'
import type { KeySelection } from './useKeySelection'
import { numbersOf, rangeOf, type AnimatedParam } from './keyframes'
import { pointerDrag } from '~/features/ui/pointerDrag'

/** The course of one setting over time: a line for a number, two for a place, with its keyframes as dots. */
const props = defineProps<{
  row: AnimatedParam
  keys: KeySelection
  clip: Clip
  width: number
  toX: (clipTime: number) => number
  toClipTime: (x: number) => number
}>()
const emit = defineEmits<{ press: [] }>()
const svg = ref<SVGSVGElement | null>(null)
const GRAPH = 96
const STEPS = 240

const graph = computed(() => {
  const { row, keys, clip, toX } = props
  if (numbersOf(row.value.keys[0]!.value).length === 0) return null
  const value = keys.valueOf(row)
  const [from, to] = [clip.head, clip.head + clip.length]
  const y = scaleLinear(rangeOf(value, from, to), [GRAPH - 12, 12]).nice()
  const parts = numbersOf(value.keys[0]!.value).length
  const lines = Array.from({ length: parts }, (_, part) => {
    const points = Array.from({ length: STEPS + 1 }, (_unused, i): [number, number] => {
      const at = from + ((to - from) * i) / STEPS
      return [toX(at), y(numbersOf(valueAt(value, at))[part]!)]
    })
    return polyline()(points)!
  })
  const dots = value.keys.flatMap((key, i) =>
    numbersOf(key.value).map((number, part) => ({ i, at: key.at, part, x: toX(key.at), y: y(number) })),
  )
  return {
    y,
    lines,
    dots,
    handles: handlesOf(value.keys, parts, y),
    ticks: y.ticks(4).map((tick) => ({ tick, y: y(tick) })),
  }
})

/**
 * Handles of the segment that leaves the selected keyframe. A place moves along its path by one curve: its handles show
 * how far along it is, drawn in the height between the two ends of its first number.
 */
function handlesOf(list: readonly Key[], parts: number, y: (value: number) => number) {
  const i = list.findIndex((key) => props.keys.has({ key: props.row.param.key, at: key.at }))
  const [a, b] = [list[i], list[i + 1]]
  if (!a || !b || a.ease === 'hold') return []
  const [x1, y1, x2, y2] = easeCurve(a.ease)
  // The part with the larger change shows the curve best.
  const change = Array.from({ length: parts }, (_, part) =>
    Math.abs(numbersOf(b.value)[part]! - numbersOf(a.value)[part]!),
  )
  const part = change.indexOf(Math.max(...change))
  const [va, vb] = [numbersOf(a.value)[part]!, numbersOf(b.value)[part]!]
  return ([0, 1] as const).map((n) => {
    const [hx, hy] = n === 0 ? [x1, y1] : [x2, y2]
    const end = n === 0 ? a : b
    return {
      ...{ n, a, b, va, vb },
      x: props.toX(a.at + (b.at - a.at) * hx),
      y: y(va + (vb - va) * hy),
      fromX: props.toX(end.at),
      fromY: y(n === 0 ? va : vb),
    }
  })
}

type Handle = NonNullable<typeof graph.value>['handles'][number]

function follow(down: PointerEvent, make: (event: PointerEvent) => { value: Animated; at?: number }): void {
  const { key } = props.row.param
  let last: ReturnType<typeof make> | null = null
  pointerDrag(down, {
    move(event) {
      last = make(event)
      props.keys.tryOut(new Map([[key, last.value]]))
    },
    done() {
      if (!last) return
      props.keys.keep(new Map([[key, last.value]]))
      if (last.at !== undefined) props.keys.select([{ key, at: last.at }])
    },
    end: () => props.keys.tryOut(new Map()),
  })
  emit('press')
}

function dragValue(down: PointerEvent, at: number, part: number): void {
  const { row, toX, toClipTime } = props
  props.keys.select([{ key: row.param.key, at }])
  const { y } = graph.value!
  const old = valueAt(row.value, at)
  const [low, high] = 'min' in row.param ? [row.param.min, row.param.max] : [-Infinity, Infinity]
  follow(down, (event) => {
    const number = y.invert(y(numbersOf(old)[part]!) + event.clientY - down.clientY)
    const held = Math.round(Math.min(high, Math.max(low, number)) * 10) / 10
    const next =
      typeof old === 'number'
        ? held
        : ((old as Point).map((value, i) => (i === part ? held : value)) as unknown as Point)
    const to = event.shiftKey ? at : toClipTime(toX(at) + event.clientX - down.clientX)
    return { value: putKey(moveKey(row.value, at, to), to, next), at: to }
  })
}

function dragHandle(down: PointerEvent, { n, a, b, va, vb }: Handle): void {
  const { row, toX } = props
  const { y } = graph.value!
  const box = svg.value!.getBoundingClientRect()
  const curve = [...easeCurve(a.ease)] as Curve
  follow(down, (event) => {
    const across = (event.clientX - box.left - toX(a.at)) / (toX(b.at) - toX(a.at))
    // Between equal values the handle has no height to speak of: it moves the course in time alone.
    const up = va === vb ? curve[n * 2 + 1]! : (y.invert(event.clientY - box.top) - va) / (vb - va)
    curve[n * 2] = Math.min(1, Math.max(0, across))
    curve[n * 2 + 1] = Math.min(5, Math.max(-4, up))
    return { value: easeKey(row.value, a.at, [...curve] as Curve) }
  })
}
</script>

<template>
  <svg v-if="graph" ref="svg" class="block w-full touch-none" :height="GRAPH" aria-hidden="true">
    <g v-for="tick in graph.ticks" :key="tick.tick">
      <line x1="0" :x2="width" :y1="tick.y" :y2="tick.y" class="stroke-line" stroke-width="0.5" />
      <text x="4" :y="tick.y - 2" class="fill-muted font-mono text-[9px]">{{ tick.tick }}</text>
    </g>
    <path
      v-for="(path, i) in graph.lines"
      :key="i"
      :d="path"
      class="fill-none"
      :class="i === 0 ? 'stroke-lamp' : 'stroke-dusk'"
      stroke-width="1.5"
    />
    <g v-for="handle in graph.handles" :key="handle.n">
      <line :x1="handle.fromX" :y1="handle.fromY" :x2="handle.x" :y2="handle.y" class="stroke-ember" stroke-width="1" />
      <circle
        :cx="handle.x"
        :cy="handle.y"
        r="5"
        class="cursor-move fill-ember"
        @pointerdown.stop="dragHandle($event, handle)"
      />
    </g>
    <circle
      v-for="dot in graph.dots"
      :key="`${dot.i} ${dot.part}`"
      :cx="dot.x"
      :cy="dot.y"
      r="5"
      class="cursor-move stroke-ground"
      :class="dot.part === 0 ? 'fill-lamp' : 'fill-dusk'"
      @pointerdown.stop="dragValue($event, dot.at, dot.part)"
    />
  </svg>
</template>
