<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Mask, MaskPoint, MaskShape, Point } from '@dusk/timeline'
import { usePlayer } from '~/features/player/usePlayhead'
import { tried } from '~/features/project/tried'
import { useProject } from '~/features/project/projectStore'
import { pointerDrag } from '~/features/ui/pointerDrag'
import { useMasks } from './masksStore'
import { useMaskGround } from './useMaskGround'
import { useMaskShape } from './useMaskShape'
import {
  movedTo,
  setAt,
  settingOf,
  thinned,
  withHandle,
  withPointAt,
  withPoints,
  withShape,
  withStroke,
} from './maskEdit'

/** The outline and the handles of the shape that is worked on, over the viewer's picture. */
const props = defineProps<{ width: number; height: number; scale: number }>()
const project = useProject()
const player = usePlayer()
const masks = useMasks()
const surface = ref<HTMLElement | null>(null)

const effect = computed(() => (masks.effectId ? (project.document?.effects[masks.effectId] ?? null) : null))
const ground = useMaskGround(() => effect.value)
const trial = ref<Mask | null>(null)
const mask = computed(() => trial.value ?? effect.value?.mask ?? null)
const shape = computed(() => mask.value?.shapes.find(({ id }) => id === masks.shapeId) ?? null)
const shown = computed(() => ground.value !== null && shape.value !== null && !player.playing.value)

function show(next: Mask | null): void {
  trial.value = next
  const document = project.document
  if (!document || !effect.value) return
  const outcome = next && tried(document, { type: 'setEffects', effectIds: [effect.value.id], set: { mask: next } })
  player.tryOut(outcome ? outcome.project : null)
}
function keep(next: Mask): void {
  trial.value = null
  if (effect.value) project.perform({ type: 'setEffects', effectIds: [effect.value.id], set: { mask: next } })
}

/** Follows the pointer; `make` gives the shape for where it is, as parts of the picture. */
function follow(down: PointerEvent, make: (part: Point, event: PointerEvent, from: MaskShape) => MaskShape): void {
  if (down.button !== 0 || !mask.value || !shape.value) return
  const [begun, from] = [mask.value, shape.value]
  let last: Mask | null = null
  pointerDrag(down, {
    slack: 2,
    move(event) {
      const part = partAt(event)
      if (!part) return
      last = withShape(begun, from.id, () => make(part, event, from))
      show(last)
    },
    done: () => (last ? keep(last) : show(null)),
    cancel: () => show(null),
  })
}
function partAt(event: MouseEvent): Point | null {
  const box = surface.value!.getBoundingClientRect()
  return (
    ground.value?.toPart([(event.clientX - box.left) / props.scale, (event.clientY - box.top) / props.scale]) ?? null
  )
}

const {
  time,
  position,
  rotation,
  isBox,
  grown,
  half,
  points,
  outline,
  screen,
  about,
  along,
  penPart,
  penPlace,
  round,
} = useMaskShape(shape, ground, () => props.scale)

const SIDES = [
  ['Right side', 1, 0],
  ['Left side', -1, 0],
  ['Lower side', 0, 1],
  ['Upper side', 0, -1],
] as const
const style = (part: Point) => {
  const [x, y] = screen(part)
  return { left: `${x}px`, top: `${y}px` }
}

function move(down: PointerEvent): void {
  const begun = partAt(down)
  const from = position.value
  if (begun)
    follow(down, ([x, y], _, shape) =>
      setAt(shape, time.value, { position: [round(from[0] + x - begun[0]), round(from[1] + y - begun[1])] }),
    )
}
function stretch(down: PointerEvent, across: boolean): void {
  const from = settingOf<Point>(shape.value!, 'size', time.value)
  follow(down, (part, event, shape) => {
    const [u, v] = along(part).map(Math.abs) as [number, number]
    const { width, height } = ground.value!
    const next: [number, number] = [...from]
    if (across) next[0] = round((u * 200) / width)
    else next[1] = round((v * 200) / height)
    // With Shift both go together.
    if (event.shiftKey)
      next[across ? 1 : 0] = round((from[across ? 1 : 0] * next[across ? 0 : 1]) / Math.max(0.1, from[across ? 0 : 1]))
    return setAt(shape, time.value, { size: next })
  })
}
function turn(down: PointerEvent): void {
  const begun = partAt(down)
  if (!begun) return
  const angle = ([x, y]: Point) => {
    const { width, height } = ground.value!
    return (Math.atan2((y - position.value[1]) * height, (x - position.value[0]) * width) * 180) / Math.PI
  }
  const [start, from] = [angle(begun), rotation.value]
  follow(down, (part, event, shape) => {
    const to = from + angle(part) - start
    return setAt(shape, time.value, { rotation: event.shiftKey ? Math.round(to / 15) * 15 : round(to) })
  })
}
/** An end of a straight gradient: it is turned and made longer about its middle. */
function pull(down: PointerEvent, end: 1 | -1): void {
  follow(down, ([x, y], _, shape) => {
    const { width, height } = ground.value!
    const [dx, dy] = [(((x - position.value[0]) * width) / 100) * end, (((y - position.value[1]) * height) / 100) * end]
    const length = Math.hypot(dx, dy)
    return setAt(shape, time.value, {
      rotation: round((Math.atan2(-dx, dy) * 180) / Math.PI),
      length: round((length * 200) / height),
    })
  })
}

function movePoint(down: PointerEvent, index: number): void {
  const list = points.value
  follow(down, (part, event, shape) => {
    const place = penPlace(part)
    const next = event.altKey ? withHandle(list[index]!, 'out', place, false) : movedTo(list[index]!, place)
    return withPoints(
      shape,
      time.value,
      list.map((point, i) => (i === index ? next : point)),
    )
  })
}
function moveHandle(down: PointerEvent, index: number, side: 'in' | 'out'): void {
  const list = points.value
  follow(down, (part, event, shape) =>
    withPoints(
      shape,
      time.value,
      list.map((point, i) => (i === index ? withHandle(point, side, penPlace(part), event.altKey) : point)),
    ),
  )
}
function removePoint(index: number): void {
  if (!mask.value || !shape.value) return
  const left = points.value.filter((_, i) => i !== index)
  keep(withShape(mask.value, shape.value.id, (one) => withPoints(one, time.value, left)))
}
function key(event: KeyboardEvent, index: number): void {
  if (event.key !== 'Delete' && event.key !== 'Backspace') return
  event.preventDefault()
  event.stopPropagation()
  removePoint(index)
}

/** A press on the picture: paints, puts a point, or moves the shape. */
function press(down: PointerEvent): void {
  if (down.button !== 0 || !shape.value || !mask.value) return
  surface.value?.focus({ preventScroll: true })
  const part = partAt(down)
  if (!part) return
  if (shape.value.kind === 'brush') return paint(down, part)
  if (shape.value.kind !== 'pen') return move(down)
  const { width, height } = ground.value!
  const [begun, from] = [mask.value, shape.value]
  // Two points are needed before there is an outline that can be kept.
  const base = pending.value && points.value.length === 0 ? [pending.value] : points.value
  const all = withPointAt(base, penPlace(part), width / height)
  pending.value = all.length === 1 ? all[0]! : null
  if (pending.value) return
  const own = all.findIndex((point) => !base.includes(point))
  let last = withShape(begun, from.id, (one) => withPoints(one, time.value, all))
  show(last)
  pointerDrag(down, {
    // Dragging on from where it was put pulls its handles out.
    move(event) {
      const to = partAt(event)
      if (!to) return
      const next = all.map((point, i) => (i === own ? withHandle(point, 'out', penPlace(to), false) : point))
      last = withShape(begun, from.id, (one) => withPoints(one, time.value, next))
      show(last)
    },
    done: () => keep(last),
    cancel: () => show(null),
  })
}
/** The first point of an outline, which is none yet. */
const pending = ref<MaskPoint | null>(null)

function paint(down: PointerEvent, first: Point): void {
  const { width, height } = ground.value!
  const place = (part: Point): [number, number] => {
    const [u, v] = along(part)
    return [((u / width) * 100) / grown.value, ((v / height) * 100) / grown.value]
  }
  const places = [place(first)]
  const erase = down.altKey
  const [begun, from, radius] = [mask.value!, shape.value!, masks.radius]
  const made = () =>
    withShape(begun, from.id, (one) => withStroke(one, { radius, erase, places: thinned(places, radius / 6) }))
  show(made())
  pointerDrag(down, {
    slack: 1,
    move(event) {
      const part = partAt(event)
      if (!part) return
      places.push(place(part))
      show(made())
    },
    done: () => keep(made()),
    cancel: () => show(null),
  })
}
function leave(event: KeyboardEvent): void {
  if (event.key !== 'Escape') return
  event.stopPropagation()
  masks.edit(null)
}
const cursor = ref<Point | null>(null)
function hover(event: PointerEvent): void {
  const box = surface.value!.getBoundingClientRect()
  cursor.value = shape.value?.kind === 'brush' ? [event.clientX - box.left, event.clientY - box.top] : null
}
const brushSize = computed(() => {
  if (!ground.value) return 0
  const [, a, , d] = ground.value.matrix
  return ((ground.value.height * masks.radius) / 100) * Math.hypot(a, d) * props.scale * grown.value
})
</script>

<template>
  <div
    v-if="shown"
    ref="surface"
    class="absolute touch-none outline-none"
    :style="{ width: `${width}px`, height: `${height}px` }"
    :class="shape!.kind === 'pen' || shape!.kind === 'brush' ? 'cursor-crosshair' : 'cursor-move'"
    tabindex="0"
    role="group"
    aria-label="The mask on the picture. Escape ends."
    data-testid="mask-layer"
    @pointerdown="press"
    @pointermove="hover"
    @pointerleave="cursor = null"
    @keydown="leave"
  >
    <svg class="pointer-events-none absolute inset-0 size-full overflow-visible" aria-hidden="true">
      <path :d="outline" class="fill-none stroke-ground" stroke-width="3" />
      <path :d="outline" class="fill-none stroke-lamp" stroke-width="1.5" />
      <template v-for="(point, i) in points" :key="i">
        <template v-if="point[2] || point[3] || point[4] || point[5]">
          <line
            v-for="side in [2, 4]"
            :key="side"
            :x1="screen(penPart([point[0], point[1]]))[0]"
            :y1="screen(penPart([point[0], point[1]]))[1]"
            :x2="screen(penPart([point[0] + point[side]!, point[1] + point[side + 1]!]))[0]"
            :y2="screen(penPart([point[0] + point[side]!, point[1] + point[side + 1]!]))[1]"
            class="stroke-lamp"
          />
        </template>
      </template>
      <circle v-if="cursor" :cx="cursor[0]" :cy="cursor[1]" :r="brushSize" class="fill-none stroke-lamp" />
    </svg>
    <template v-if="isBox">
      <button
        v-for="[name, u, v] in SIDES"
        :key="name"
        class="absolute size-6 -translate-1/2"
        :style="style(about(half[0] * u, half[1] * v))"
        tabindex="-1"
        :aria-label="name"
        @pointerdown.stop="stretch($event, u !== 0)"
      >
        <span class="m-auto block size-2.5 rounded-full border border-ground bg-lamp" />
      </button>
      <button
        class="absolute size-6 -translate-1/2 cursor-grab"
        :style="style(about(0, -half[1] * 1.25 - 12))"
        tabindex="-1"
        aria-label="Turn the mask"
        @pointerdown.stop="turn"
      >
        <span class="m-auto block size-2.5 rounded-full border-2 border-lamp bg-ground" />
      </button>
    </template>
    <template v-if="shape!.kind === 'straight'">
      <button
        v-for="[name, end] in [
          ['Where all is covered', -1],
          ['Where nothing is covered', 1],
        ] as const"
        :key="name"
        class="absolute size-6 -translate-1/2"
        :style="style(about(0, half[1] * end))"
        tabindex="-1"
        :aria-label="name"
        @pointerdown.stop="pull($event, end)"
      >
        <span
          class="m-auto block size-2.5 rounded-full border border-ground"
          :class="end < 0 ? 'bg-lamp' : 'bg-ground'"
        />
      </button>
    </template>
    <template v-if="shape!.kind === 'pen'">
      <template v-for="(point, i) in points" :key="i">
        <button
          v-for="side in (['in', 'out'] as const).filter((s) =>
            s === 'in' ? point[2] || point[3] : point[4] || point[5],
          )"
          :key="side"
          class="absolute size-5 -translate-1/2"
          :style="
            style(
              penPart(
                side === 'in' ? [point[0] + point[2], point[1] + point[3]] : [point[0] + point[4], point[1] + point[5]],
              ),
            )
          "
          tabindex="-1"
          :aria-label="`Handle ${side} of point ${i + 1}`"
          @pointerdown.stop="moveHandle($event, i, side)"
        >
          <span class="m-auto block size-1.5 rounded-full bg-lamp" />
        </button>
        <button
          class="absolute size-6 -translate-1/2"
          :style="style(penPart([point[0], point[1]]))"
          :aria-label="`Point ${i + 1} of the outline`"
          @pointerdown.stop="movePoint($event, i)"
          @dblclick.stop="removePoint(i)"
          @contextmenu.prevent.stop="removePoint(i)"
          @keydown="key($event, i)"
        >
          <span class="m-auto block size-2.5 rounded-xs border border-ground bg-lamp" />
        </button>
      </template>
      <span
        v-if="pending && points.length === 0"
        class="pointer-events-none absolute size-2.5 -translate-1/2 rounded-xs bg-lamp"
        :style="style(penPart([pending[0], pending[1]]))"
      />
    </template>
    <span
      v-if="shape!.kind !== 'brush'"
      class="pointer-events-none absolute size-2 -translate-1/2 rounded-full border-2 border-lamp"
      :style="style(position)"
    />
  </div>
</template>
