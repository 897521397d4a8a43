<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import {
  clipEnd,
  EASES,
  easeKey,
  formatSeconds,
  isAnimated,
  mapValues,
  moveKey,
  putKey,
  removeKey,
  snapToSample,
  TICKS_PER_SECOND,
  trackClips,
  valueAt,
  type Animated,
  type Clip,
  type Ease,
} from '@dusk/timeline'
import { pointerDrag } from '~/features/ui/pointerDrag'
import { useProject } from '~/features/project/projectStore'
import { useDesk } from '~/features/timeline/deskStore'
import { EDGE, firstVisible, headerOf, type Row } from '~/features/timeline/layout'
import { transitionAtEdge, type ClipEdge } from '~/features/timeline/edgeTransitions'
import { fadeHandle, lengthOf } from './fades'
import { dbAt, dbWords, yOf } from './levelScale'

/** Lines of loudness on sound clips, with their points; gain handles and fades at the corners. */
const props = defineProps<{ rows: readonly Row[]; width: number; height: number }>()
const project = useProject()
const desk = useDesk()

const LEAST_HEIGHT = 40
const LEAST_WIDTH = 36
const MOST = 80

/** What is dragged now: drawn instead of what is in the document. */
const tried = shallowRef<{
  id: string
  level?: Animated<number>
  gain?: number
  fade?: { edge: ClipEdge; length: number }
} | null>(null)
const label = ref<{ x: number; y: number; words: string } | null>(null)
const shaping = ref<{ clip: Clip; at: number; x: number; y: number } | null>(null)

interface Shown {
  clip: Clip
  x: number
  w: number
  top: number
  h: number
  level: Animated<number>
  path: string
  /** The part of the line that is taken hold of: at the edges of the clip it is they that are meant. */
  grip: string
  points: { at: number; x: number; y: number; value: number }[]
  fades: { edge: ClipEdge; x: number; w: number; path: string }[]
}

const shown = computed<Shown[]>(() => {
  const document = project.document
  if (!document) return []
  const lanes = trackClips(document)
  const found: Shown[] = []
  const right = desk.toTick(props.width)
  for (const { track, top, height } of props.rows) {
    if (track.kind !== 'sound' || height < LEAST_HEIGHT || track.locked) continue
    const y = top - desk.scrollY
    if (y + height < 0 || y > props.height) continue
    const clips = lanes.get(track.id) ?? []
    for (let i = firstVisible(clips, desk.scroll); i < clips.length && clips[i]!.start < right; i++) {
      const clip = clips[i]!
      const x = desk.toX(clip.start)
      const w = desk.toX(clipEnd(clip)) - x
      if (w < LEAST_WIDTH) continue
      found.push(describe(clip, x, w, y + headerOf(height), height - headerOf(height)))
      if (found.length >= MOST) return found
    }
  }
  return found
})

function describe(clip: Clip, x: number, w: number, top: number, h: number): Shown {
  const now = tried.value?.id === clip.id ? tried.value : null
  const level = now?.level ?? ((clip.params.level ?? 0) as Animated<number>)
  const at = (px: number) => clip.head + desk.toTick(px) - clip.start
  const from = Math.max(0, x)
  const to = Math.min(props.width, x + w)
  const line = (from: number, to: number) => {
    const steps = isAnimated(level) ? Math.max(2, Math.min(120, Math.ceil((to - from) / 6))) : 1
    const places = Array.from({ length: steps + 1 }, (_, i) => from + ((to - from) * i) / steps)
    return `M${places.map((px) => `${px.toFixed(1)} ${(top + yOf(valueAt(level, at(px)), h)).toFixed(1)}`).join('L')}`
  }
  const points = isAnimated(level)
    ? level.keys
        .map((key) => ({
          at: key.at,
          value: key.value,
          x: desk.toX(clip.start + key.at - clip.head),
          y: top + yOf(key.value, h),
        }))
        .filter((point) => point.x >= x - 1 && point.x <= x + w + 1 && point.x > -8 && point.x < props.width + 8)
    : []
  const fades = (['start', 'end'] as const).flatMap((edge) => {
    const fade = transitionAtEdge(project.document!.transitions, clip.id, edge)
    if (fade && fade.leftId && fade.rightId) return []
    const length = now?.fade?.edge === edge ? now.fade.length : fade ? lengthOf(fade) : 0
    const px = (length / TICKS_PER_SECOND) * desk.pixelsPerSecond
    const kind = fade?.kind ?? 'equalPower'
    return [fadeHandle(edge, kind, x, w, px, top, h)]
  })
  const grip = line(Math.max(from, x + EDGE), Math.min(to, x + w - EDGE))
  return { clip, x, w, top, h, level, path: line(from, to), grip, points, fades }
}

const setLevel = (clip: Clip, level: Animated<number>) => {
  const plain = !isAnimated(level) && Math.abs(level) < 0.05
  project.perform({ type: 'setParams', clipIds: [clip.id], set: { level: plain ? null : (level as never) } })
}
const round = (db: number) => Math.round(db * 10) / 10
const say = (event: PointerEvent, words: string) => {
  const area = (root.value as HTMLElement).getBoundingClientRect()
  label.value = { x: event.clientX - area.left + 12, y: event.clientY - area.top - 22, words }
}
const root = ref<HTMLElement | null>(null)

/** Follows the pointer with a trial of the clip, and keeps it when let go. */
function drag(down: PointerEvent, clip: Clip, move: (event: PointerEvent) => void, keep: () => void): void {
  if (down.button !== 0) return
  down.stopPropagation()
  if (!desk.selection.has(clip.id)) desk.select([clip.id], project.document)
  pointerDrag(down, {
    move,
    done: (_, moved) => moved && keep(),
    end: () => {
      tried.value = null
      label.value = null
    },
  })
}

/** The whole line up or down. */
function dragLine(down: PointerEvent, { clip, h, level }: Shown): void {
  let next = level
  drag(
    down,
    clip,
    (event) => {
      const by = (value: number) => dbAt(yOf(value, h) + event.clientY - down.clientY, h) - value
      const shift = round(
        by(isAnimated(level) ? valueAt(level, clip.head + desk.toTick(desk.toX(clip.start) + 1)) : level),
      )
      const held = (value: number) => Math.min(24, Math.max(-96, round(value + shift)))
      next = isAnimated(level) ? mapValues(level, held) : held(level)
      tried.value = { id: clip.id, level: next }
      say(event, isAnimated(next) ? `${shift > 0 ? '+' : ''}${dbWords(shift)}` : dbWords(next))
    },
    () => setLevel(clip, next),
  )
}

function dragPoint(down: PointerEvent, { clip, h, level }: Shown, at: number): void {
  if (!isAnimated(level)) return
  const key = level.keys.find((entry) => entry.at === at)!
  let next: Animated<number> = level
  drag(
    down,
    clip,
    (event) => {
      const value = Math.min(24, Math.max(-96, round(dbAt(yOf(key.value, h) + event.clientY - down.clientY, h))))
      // Shift holds its time, Alt its level.
      const by = event.shiftKey ? 0 : desk.toTick(event.clientX) - desk.toTick(down.clientX)
      const to = snapToSample(Math.min(Math.max(at + by, clip.head), clip.head + clip.length))
      next = putKey(moveKey(level, at, to), to, event.altKey ? key.value : value, key.ease)
      tried.value = { id: clip.id, level: next }
      say(event, `${dbWords(event.altKey ? key.value : value)} at ${formatSeconds(to - clip.head)}`)
    },
    () => setLevel(clip, next),
  )
}

function addPoint(event: MouseEvent, { clip, level }: Shown): void {
  const area = root.value!.getBoundingClientRect()
  const at = snapToSample(clip.head + desk.toTick(event.clientX - area.left) - clip.start)
  setLevel(clip, putKey(level, at, round(valueAt(level, at)), 'linear'))
}
const removePoint = ({ clip, level }: Shown, at: number) => setLevel(clip, removeKey(level, at))
function keyOnPoint(event: KeyboardEvent, one: Shown, at: number): void {
  if (!isAnimated(one.level)) return
  if (event.key === 'Delete' || event.key === 'Backspace') removePoint(one, at)
  else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
    const now = valueAt(one.level, at)
    setLevel(
      one.clip,
      putKey(one.level, at, round(Math.min(24, Math.max(-96, now + (event.key === 'ArrowUp' ? 0.5 : -0.5))))),
    )
  } else return
  event.preventDefault()
  event.stopPropagation()
}
function openShapes(one: Shown, point: { at: number; x: number; y: number }): void {
  shaping.value = { clip: one.clip, at: point.at, x: point.x, y: point.y }
}
function shape(ease: Ease): void {
  const { clip, at } = shaping.value!
  const level = project.document!.clips[clip.id]?.params.level as Animated<number> | undefined
  shaping.value = null
  if (level !== undefined) setLevel(clip, easeKey(level, at, ease))
}

function dragGain(down: PointerEvent, { clip }: Shown): void {
  let gain = clip.gain
  drag(
    down,
    clip,
    (event) => {
      const fine = event.shiftKey ? 0.05 : 0.25
      gain = Math.min(24, Math.max(-96, round(clip.gain + (down.clientY - event.clientY) * fine)))
      tried.value = { id: clip.id, gain }
      say(event, `gain ${dbWords(gain)}`)
    },
    () => project.perform({ type: 'setClips', clipIds: [clip.id], set: { gain } }),
  )
}

function dragFade(down: PointerEvent, { clip, x, w }: Shown, edge: ClipEdge): void {
  const old = transitionAtEdge(project.document!.transitions, clip.id, edge)
  let length = old ? lengthOf(old) : 0
  drag(
    down,
    clip,
    (event) => {
      const area = root.value!.getBoundingClientRect()
      const px = event.clientX - area.left
      const far = Math.min(Math.max(edge === 'start' ? px - x : x + w - px, 0), w)
      length = snapToSample(Math.round((far / desk.pixelsPerSecond) * TICKS_PER_SECOND))
      tried.value = { id: clip.id, fade: { edge, length } }
      say(event, `${edge === 'start' ? 'fade in' : 'fade out'} ${formatSeconds(length)}`)
    },
    () => {
      const sides = edge === 'start' ? { before: 0, after: length } : { before: length, after: 0 }
      if (old && length === 0) project.perform({ type: 'removeTransitions', transitionIds: [old.id] })
      else if (old) project.perform({ type: 'setTransitions', transitionIds: [old.id], set: sides })
      else if (length > 0)
        project.perform({
          type: 'addTransitions',
          transitions: [
            {
              id: crypto.randomUUID(),
              leftId: edge === 'end' ? clip.id : null,
              rightId: edge === 'start' ? clip.id : null,
              ...sides,
              kind: 'equalPower',
              settings: {},
              missing: 'shorten',
            },
          ],
        })
    },
  )
}
</script>

<template>
  <div ref="root" class="pointer-events-none absolute inset-0 overflow-hidden" aria-label="Level lines">
    <svg class="absolute inset-0 size-full overflow-visible">
      <g v-for="one in shown" :key="one.clip.id">
        <path v-for="fade in one.fades" :key="fade.edge" :d="fade.path" class="fill-ground/45 stroke-ivory/70" />
        <path
          :d="one.grip"
          class="pointer-events-auto cursor-ns-resize touch-none fill-none stroke-transparent"
          stroke-width="9"
          :data-level="one.clip.id"
          @pointerdown="dragLine($event, one)"
          @dblclick.stop="addPoint($event, one)"
        >
          <title>Level. Drag it up or down; double-click to set a point.</title>
        </path>
        <path :d="one.path" class="fill-none stroke-lamp" stroke-width="1.2" />
      </g>
    </svg>
    <template v-for="one in shown" :key="one.clip.id">
      <button
        v-for="point in one.points"
        :key="point.at"
        class="pointer-events-auto absolute grid size-4 -translate-1/2 cursor-grab touch-none place-items-center"
        :style="{ left: `${point.x}px`, top: `${point.y}px` }"
        :data-level-point="one.clip.id"
        :aria-label="`Point of the level line, ${dbWords(point.value)}`"
        title="Drag. Double-click removes it, a right click shapes the way to the next."
        @pointerdown="dragPoint($event, one, point.at)"
        @dblclick.stop="removePoint(one, point.at)"
        @contextmenu.prevent.stop="openShapes(one, point)"
        @keydown="keyOnPoint($event, one, point.at)"
      >
        <span class="size-2 rounded-full border border-ground bg-lamp" />
      </button>
      <button
        v-for="fade in one.fades"
        :key="`fade ${fade.edge}`"
        class="pointer-events-auto absolute size-3 cursor-ew-resize touch-none"
        :class="fade.edge === 'start' ? '' : '-translate-x-full'"
        :style="{ left: `${fade.x}px`, top: `${one.top - 1}px` }"
        :data-fade="fade.edge"
        :aria-label="`${fade.edge === 'start' ? 'Fade in' : 'Fade out'}: drag into the clip`"
        :title="`${fade.edge === 'start' ? 'Fade in' : 'Fade out'}: drag into the clip`"
        tabindex="-1"
        @pointerdown="dragFade($event, one, fade.edge)"
      >
        <span class="block size-2 rounded-sm bg-ivory/80" :class="fade.edge === 'end' && 'ml-auto'" />
      </button>
      <button
        v-if="desk.selection.has(one.clip.id) && one.w > 90"
        class="pointer-events-auto absolute flex h-3.5 -translate-x-1/2 cursor-ns-resize touch-none items-center"
        :style="{
          left: `${Math.min(Math.max(one.x + one.w / 2, 40), width - 40)}px`,
          top: `${one.top + one.h - 16}px`,
        }"
        :data-gain="one.clip.id"
        aria-label="Gain: drag up or down"
        title="Gain of the clip: drag up or down, with Shift finely"
        tabindex="-1"
        @pointerdown="dragGain($event, one)"
        @dblclick.stop="project.perform({ type: 'setClips', clipIds: [one.clip.id], set: { gain: 0 } })"
      >
        <span class="rounded-sm bg-ground/80 px-1 font-mono text-[9px] text-ivory">
          {{ dbWords(tried?.id === one.clip.id ? (tried.gain ?? one.clip.gain) : one.clip.gain) }}
        </span>
      </button>
    </template>
    <ul
      v-if="shaping"
      class="pointer-events-auto absolute z-20 rounded-md border border-line bg-raised py-1 text-sm"
      :style="{ left: `${Math.min(shaping.x, width - 160)}px`, top: `${Math.min(shaping.y + 8, height - 130)}px` }"
      role="menu"
      aria-label="Shape of the line from this point"
      @pointerleave="shaping = null"
    >
      <li v-for="ease in EASES" :key="ease.value" role="none">
        <button class="block w-full px-3 py-0.5 text-left hover:bg-line" role="menuitem" @click="shape(ease.value)">
          {{ ease.label }}
        </button>
      </li>
    </ul>
    <p
      v-if="label"
      class="absolute z-20 rounded-md border border-line bg-raised px-2 py-0.5 text-sm whitespace-nowrap"
      :style="{ left: `${Math.min(label.x, width - 160)}px`, top: `${Math.max(label.y, 2)}px` }"
      role="status"
    >
      {{ label.words }}
    </p>
  </div>
</template>
