<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { line as polyline } from 'd3-shape'
import { computed, ref, shallowRef } from 'vue'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import {
  easeCurve,
  easeKey,
  moveKey,
  putKey,
  removeKey,
  snapToFrame,
  TICKS_PER_SECOND,
  valueAt,
  type Animated,
  type Clip,
  type Curve,
  type Key,
  type Point,
} from '@dusk/timeline'
import { useFollowPlay, usePlayhead } from '~/composables/usePlayhead'
import { animatedParams, numbersOf, rangeOf, type AnimatedParam } from '~/lib/keyframes'
import { useDesk } from '~/stores/desk'
import { useProject } from '~/stores/project'
import { useSource } from '~/stores/source'

/**
 * Keyframes of the selected clip under the timeline: a row for each setting, and the course of one of them as a
 * curve.
 */
const props = defineProps<{ clip: Clip; heads: number; width: number }>()
const project = useProject()
const desk = useDesk()
const playhead = usePlayhead()
const source = useSource()
const line = ref<HTMLElement | null>(null)
useFollowPlay(line, (tick) => desk.toX(source.assetId ? source.parked : tick))
const ROW = 22
const GRAPH = 96

const rows = computed(() => animatedParams(props.clip))
const chosenKey = ref('')
const chosen = computed(() => rows.value.find((row) => row.param.key === chosenKey.value) ?? rows.value[0])
/** The keyframe that keys act on. */
const picked = shallowRef<{ key: string; at: number } | null>(null)
/** A value as it is tried out while something is dragged. */
const tried = shallowRef<{ key: string; value: Animated } | null>(null)

const toX = (clipTime: number) => desk.toX(props.clip.start + clipTime - props.clip.head)
const toClipTime = (x: number) => {
  const tick = desk.toTick(x)
  return snapToFrame(tick, project.reel!.format.rate) - props.clip.start + props.clip.head
}
const valueOf = (row: AnimatedParam) =>
  tried.value?.key === row.param.key ? (tried.value.value as { keys: Key[] }) : row.value

function keep(row: AnimatedParam, value: Animated): void {
  const set = { [row.param.key]: value } as never
  if (row.ofTitle) project.perform({ type: 'setTitle', clipIds: [props.clip.id], set: {}, style: set })
  else project.perform({ type: 'setParams', clipIds: [props.clip.id], set })
}

/** Follows the pointer with a value that is kept when it is let go; Escape gives up. */
function follow(down: PointerEvent, row: AnimatedParam, make: (event: PointerEvent) => Animated): void {
  const target = down.currentTarget as HTMLElement
  target.setPointerCapture(down.pointerId)
  const move = (event: PointerEvent) => (tried.value = { key: row.param.key, value: make(event) })
  const end = (save: boolean) => {
    target.removeEventListener('pointermove', move)
    target.removeEventListener('pointerup', up)
    document.removeEventListener('keydown', key, true)
    const last = tried.value
    tried.value = null
    if (save && last) keep(row, last.value)
  }
  const up = () => end(true)
  const key = (event: KeyboardEvent) => {
    if (event.key !== 'Escape') return
    event.stopPropagation()
    end(false)
  }
  target.addEventListener('pointermove', move)
  target.addEventListener('pointerup', up)
  document.addEventListener('keydown', key, true)
}

function dragInTime(down: PointerEvent, row: AnimatedParam, at: number): void {
  picked.value = { key: row.param.key, at }
  chosenKey.value = row.param.key
  const begin = down.clientX
  follow(down, row, (event) => {
    const to = toClipTime(toX(at) + event.clientX - begin)
    picked.value = { key: row.param.key, at: to }
    // With Alt a copy is moved and the keyframe stays.
    if (event.altKey) return putKey(row.value, to, valueAt(row.value, at))
    return moveKey(row.value, at, to)
  })
}

function onKey(event: KeyboardEvent, row: AnimatedParam, at: number): void {
  const frame = Math.round(TICKS_PER_SECOND / (project.reel!.format.rate.num / project.reel!.format.rate.den))
  if (event.key === 'Delete' || event.key === 'Backspace') keep(row, removeKey(row.value, at))
  else if (event.key === 'ArrowLeft') keep(row, moveKey(row.value, at, at - frame))
  else if (event.key === 'ArrowRight') keep(row, moveKey(row.value, at, at + frame))
  else if (event.key === 'Enter') playhead.goTo(props.clip.start + at - props.clip.head)
  else return
  event.preventDefault()
  event.stopPropagation()
}

/** The curve of the chosen setting: one line for a number, two for a place. */
const graph = computed(() => {
  const row = chosen.value
  if (!row || numbersOf(row.value.keys[0]!.value).length === 0) return null
  const value = valueOf(row)
  const from = props.clip.head
  const to = props.clip.head + props.clip.length
  const y = scaleLinear(rangeOf(value, from, to), [GRAPH - 12, 12]).nice()
  const parts = numbersOf(value.keys[0]!.value).length
  const steps = 240
  const lines = Array.from({ length: parts }, (_, part) => {
    const points = Array.from({ length: steps + 1 }, (_unused, i): [number, number] => {
      const at = from + ((to - from) * i) / steps
      return [toX(at), y(numbersOf(valueAt(value, at))[part]!)]
    })
    return polyline()(points)!
  })
  const dots = value.keys.flatMap((key) =>
    numbersOf(key.value).map((number, part) => ({ at: key.at, part, x: toX(key.at), y: y(number) })),
  )
  // The handles of the segment that leaves the picked keyframe, numbers only: a place has its path on the picture.
  const i = value.keys.findIndex((key) => picked.value?.key === row.param.key && key.at === picked.value.at)
  const [a, b] = [value.keys[i], value.keys[i + 1]]
  const handles =
    parts === 1 && a && b && a.ease !== 'hold'
      ? ([0, 1] as const).map((n) => {
          const [x1, y1, x2, y2] = easeCurve(a.ease)
          const [hx, hy] = n === 0 ? [x1, y1] : [x2, y2]
          const [va, vb] = [a.value as number, b.value as number]
          const end = n === 0 ? a : b
          return {
            n,
            a,
            b,
            x: toX(a.at + (b.at - a.at) * hx),
            y: y(va + (vb - va) * hy),
            fromX: toX(end.at),
            fromY: y(end.value as number),
          }
        })
      : []
  return { y, lines, dots, handles, ticks: y.ticks(4).map((tick) => ({ tick, y: y(tick) })) }
})

function dragValue(down: PointerEvent, at: number, part: number): void {
  const row = chosen.value!
  picked.value = { key: row.param.key, at }
  const { y } = graph.value!
  const begin = { x: down.clientX, y: down.clientY }
  const old = valueAt(row.value, at)
  const [low, high] = 'min' in row.param ? [row.param.min, row.param.max] : [-Infinity, Infinity]
  follow(down, row, (event) => {
    const number = y.invert(y(numbersOf(old)[part]!) + event.clientY - begin.y)
    const held = Math.round(Math.min(high, Math.max(low, number)) * 10) / 10
    const next =
      typeof old === 'number'
        ? held
        : ((old as Point).map((value, i) => (i === part ? held : value)) as unknown as Point)
    const to = event.shiftKey ? at : toClipTime(toX(at) + event.clientX - begin.x)
    picked.value = { key: row.param.key, at: to }
    return putKey(moveKey(row.value, at, to), to, next)
  })
}

function dragHandle(down: PointerEvent, handle: { n: 0 | 1; a: Key; b: Key }): void {
  const row = chosen.value!
  const { y } = graph.value!
  const box = (down.currentTarget as HTMLElement).closest('svg')!.getBoundingClientRect()
  const { n, a, b } = handle
  const curve = [...easeCurve(a.ease)] as Curve
  follow(down, row, (event) => {
    const across = (event.clientX - box.left - toX(a.at)) / (toX(b.at) - toX(a.at))
    const [va, vb] = [a.value as number, b.value as number]
    // Between equal values the handle has no height to speak of: it moves the course in time alone.
    const up = va === vb ? curve[n * 2 + 1]! : (y.invert(event.clientY - box.top) - va) / (vb - va)
    curve[n * 2] = Math.min(1, Math.max(0, across))
    curve[n * 2 + 1] = Math.min(5, Math.max(-4, up))
    return easeKey(row.value, a.at, [...curve] as Curve)
  })
}

const nearest = (row: AnimatedParam, event: MouseEvent) => {
  const x = event.clientX - (event.currentTarget as HTMLElement).getBoundingClientRect().left
  keep(row, putKey(row.value, toClipTime(x), valueAt(row.value, toClipTime(x))))
}
</script>

<template>
  <section class="flex max-h-64 shrink-0 overflow-y-auto border-t border-line bg-panel" aria-label="Keyframes">
    <div class="shrink-0 border-r border-line" :style="{ width: `${heads}px` }">
      <div v-for="row in rows" :key="row.param.key" class="flex items-center" :style="{ height: `${ROW}px` }">
        <button
          class="min-w-0 flex-1 truncate px-3 text-left text-sm"
          :class="row === chosen ? 'text-lamp' : 'text-muted hover:text-ivory'"
          :aria-pressed="row === chosen"
          @click="chosenKey = row.param.key"
        >
          {{ row.param.label }}
        </button>
        <button
          class="grid size-6 place-items-center text-muted hover:text-ivory"
          :aria-label="`Remove all keyframes of ${row.param.label}`"
          title="Remove all keyframes; the value at the playhead stays"
          @click="keep(row, valueAt(row.value, playhead.now() - clip.start + clip.head))"
        >
          <X :size="12" />
        </button>
      </div>
    </div>
    <div class="relative min-w-0 flex-1 overflow-hidden">
      <div
        v-for="row in rows"
        :key="row.param.key"
        class="relative border-b border-line/50"
        :style="{ height: `${ROW}px` }"
        title="Double-click to set a keyframe"
        @dblclick="nearest(row, $event)"
      >
        <button
          v-for="key in valueOf(row).keys"
          :key="key.at"
          class="absolute top-0 grid size-5.5 -translate-x-1/2 place-items-center"
          :style="{ left: `${toX(key.at)}px` }"
          :aria-label="`Keyframe of ${row.param.label}. Arrow keys move it by a frame, Delete removes it.`"
          @pointerdown.stop="dragInTime($event, row, key.at)"
          @dblclick.stop="playhead.goTo(clip.start + key.at - clip.head)"
          @keydown="onKey($event, row, key.at)"
        >
          <span
            class="block size-2.5 rotate-45"
            :class="picked?.key === row.param.key && picked.at === key.at ? 'bg-ember' : 'bg-lamp'"
          />
        </button>
      </div>
      <svg v-if="graph" class="block w-full touch-none" :height="GRAPH" aria-hidden="true">
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
          <line
            :x1="handle.fromX"
            :y1="handle.fromY"
            :x2="handle.x"
            :y2="handle.y"
            class="stroke-ember"
            stroke-width="1"
          />
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
          :key="`${dot.at} ${dot.part}`"
          :cx="dot.x"
          :cy="dot.y"
          r="5"
          class="cursor-move stroke-ground"
          :class="dot.part === 0 ? 'fill-lamp' : 'fill-dusk'"
          @pointerdown.stop="dragValue($event, dot.at, dot.part)"
        />
      </svg>
      <div
        ref="line"
        class="pointer-events-none absolute inset-y-0 left-0 w-px bg-ivory/60 will-change-transform"
        :style="{ transform: `translateX(${desk.toX(playhead.tick.value)}px)` }"
      />
    </div>
  </section>
</template>
