<script setup lang="ts">
import { computed, ref, toRef, watch } from 'vue'
import { FramePlanner, isAnimated, valueAt, type Animated, type Clip, type Point } from '@dusk/timeline'
import { usePlayer, usePlayhead } from '~/features/player/usePlayhead'
import { croppedAway, isCell } from './cells'
import { useCellDrop } from './useCellDrop'
import { useGenerated } from '~/features/titles/useGenerated'
import { useViewerDrag } from './useViewerDrag'
import { boundsOf, covers, outlineOf, outlinesAt, type Outline } from '~/features/timeline/outlines'
import { useDesk } from '~/features/timeline/deskStore'
import { useProject } from '~/features/project/projectStore'
import { useTitles } from '~/features/titles/titlesStore'
import { useWordBoxes } from '~/features/titles/useWordBoxes'
import { handlePlace } from './handlePlaces'

/** What lies over the picture: outlines and handles of what is selected, guide lines, paths, and words being typed. */
const props = defineProps<{
  width: number
  height: number
  scale: number
  mode: 'place' | 'crop' | 'anchor' | 'level'
}>()
const project = useProject()
const desk = useDesk()
const titles = useTitles()
const player = usePlayer()
const playhead = usePlayhead()
const generated = useGenerated()
const drag = useViewerDrag(toRef(props, 'scale'))
const frame = ref<HTMLElement | null>(null)

const shown = computed(() => drag.trial.value ?? titles.typed ?? project.document)
const titlesSeen = computed(() => {
  const [document, reelId] = [shown.value, project.reelId]
  if (!document?.reels[reelId] || player.playing.value) return []
  return new FramePlanner(document, reelId).clipsAt(playhead.tick.value).filter((clip) => clip.kind === 'title')
})
const words = useWordBoxes(titlesSeen)
const seen = computed(() =>
  shown.value && !player.playing.value
    ? outlinesAt(shown.value, project.reelId, playhead.tick.value, words.boxes.value)
    : [],
)
const cells = useCellDrop(frame, seen, toRef(props, 'scale'))
const selected = computed(() => seen.value.filter(({ clip }) => desk.selection.has(clip.id)))
const only = computed(() => (selected.value.length === 1 ? selected.value[0]! : null))
const points = (outline: Outline) => outline.corners.map(([x, y]) => `${x * props.scale},${y * props.scale}`).join(' ')
const screen = ([x, y]: Point): Point => [x * props.scale, y * props.scale]
const between = (a: Point, b: Point): Point => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]

/** What the handles belong to. Words whose box is still that of earlier ones have none: they would lie over them. */
const handled = computed(() => {
  if (!only.value || titles.editing || player.playing.value || desk.pictureTaken) return null
  return only.value.clip.kind !== 'title' || words.known(only.value.clip) ? only.value : null
})
/** Several pictures that are selected, sized and turned together. */
const group = computed(() =>
  props.mode === 'place' && !titles.editing && !player.playing.value && !desk.pictureTaken
    ? selected.value.filter(({ clip }) => !locked(clip))
    : [],
)
const handles = computed(() => {
  if (!handled.value) return []
  const corners = handled.value.corners.map(screen) as [Point, Point, Point, Point]
  const middle = between(corners[0], corners[2])
  return corners.map((corner) => handlePlace(corner, middle))
})

/** The knob that turns: above the middle of the upper edge, away from the picture. */
const knob = computed(() => {
  if (!handled.value) return null
  const [a, b, , d] = handled.value.corners.map(screen) as [Point, Point, Point, Point]
  const top = between(a, b)
  const [ux, uy] = [a[0] - d[0], a[1] - d[1]]
  const length = Math.hypot(ux, uy) || 1
  const out: Point = [top[0] + (ux / length) * 26, top[1] + (uy / length) * 26]
  // Beyond the frame's edge it would be out of reach: it then lies inside.
  return out[1] < 8 || out[1] > props.height - 8 || out[0] < 8 || out[0] > props.width - 8
    ? { top, out: [top[0] - (ux / length) * 26, top[1] - (uy / length) * 26] as Point }
    : { top, out }
})
const sides = computed(() => {
  if (!only.value) return []
  const [a, b, c, d] = only.value.corners.map(screen) as [Point, Point, Point, Point]
  const middle = between(a, c)
  const place = (p: Point, q: Point) => handlePlace(between(p, q), middle)
  return [
    { side: 'Top', at: place(a, b) },
    { side: 'Right', at: place(b, c) },
    { side: 'Bottom', at: place(c, d) },
    { side: 'Left', at: place(d, a) },
  ] as const
})

/** The way a clip with position keyframes goes: where its anchor is at each moment. */
const path = computed(() => {
  const clip = only.value?.clip
  const position = clip?.params.position as Animated<Point> | undefined
  if (!clip || !position || !isAnimated(position) || !only.value || !shown.value) return null
  const now = clip.head + playhead.tick.value - clip.start
  const here = valueAt(position, now)
  const [ax, ay] = only.value.anchor
  const place = (value: Point): Point => screen([ax + value[0] - here[0], ay + value[1] - here[1]])
  const { keys } = position
  const [first, last] = [keys[0]!.at, keys.at(-1)!.at]
  const line = Array.from({ length: 97 }, (_, i) => place(valueAt(position, first + ((last - first) * i) / 96)))
  const tips = (key: (typeof keys)[number]) =>
    key.bend
      ? ([1, -1] as const).map((side) => ({
          side,
          point: place([key.value[0] + side * key.bend![0], key.value[1] + side * key.bend![1]]),
        }))
      : []
  return {
    line: line.map((point) => point.join(',')).join(' '),
    // A point that lies where the picture is now belongs to the picture: dragging it sets a keyframe here.
    keys: keys
      .filter((key) => key.at === now || Math.hypot(key.value[0] - here[0], key.value[1] - here[1]) > 10 / props.scale)
      .map((key) => ({ at: key.at, point: place(key.value), tips: tips(key) })),
  }
})

const local = (event: MouseEvent): Point => {
  const box = frame.value!.getBoundingClientRect()
  return [(event.clientX - box.left) / props.scale, (event.clientY - box.top) / props.scale]
}
const hit = (event: MouseEvent) => [...seen.value].reverse().find((outline) => covers(outline, ...local(event)))
const locked = (clip: Clip) => project.document?.tracks[clip.trackId]?.locked ?? true

function press(event: PointerEvent): void {
  if (event.button !== 0 || !project.document) return
  const found = hit(event)
  frame.value?.focus({ preventScroll: true })
  if (titles.editing && found?.clip.id !== titles.editing) titles.editing = null
  if (!found) return desk.select([], null)
  if (event.shiftKey && !desk.selection.has(found.clip.id)) return desk.toggle(found.clip.id, project.document)
  if (!desk.selection.has(found.clip.id)) desk.select([found.clip.id], project.document)
  if (locked(found.clip)) return
  if (props.mode === 'level') return drag.level(event, found, box())
  const together = seen.value.filter(({ clip }) => desk.selection.has(clip.id) && !locked(clip))
  if (together.length === 1 && !event.altKey && pans(found)) return drag.pan(event, found)
  drag.move(
    event,
    () => stickingBox(found),
    together,
    seen.value.filter((other) => !together.includes(other)),
  )
}

/** Whether a press on a picture takes hold of it inside its cell: it is cropped, and another one lies beside it. */
function pans(found: Outline): boolean {
  const { across, down } = croppedAway(found.clip)
  if (!isCell(found.clip) || Math.max(across, down) < 0.1) return false
  const own = boundsOf(found)
  return seen.value.some((other) => {
    const box = boundsOf(other)
    const apart = box.left >= own.right - 1 || box.right <= own.left + 1
    return other.clip.id !== found.clip.id && (apart || box.top >= own.bottom - 1 || box.bottom <= own.top + 1)
  })
}

/** What sticks to guide lines: the box of a picture. Of words that are not measured yet only their middle is known. */
function stickingBox(found: Outline): ReturnType<typeof boundsOf> {
  const clip = project.document?.clips[found.clip.id]
  const now = clip && outlineOf(project.document!, clip, playhead.tick.value, words.boxes.value)
  const { left, right, top, bottom } = boundsOf(now || found)
  if (clip?.kind !== 'title' || words.known(clip)) return { left, right, top, bottom }
  const [x, y] = [(left + right) / 2, (top + bottom) / 2]
  return { left: x, right: x, top: y, bottom: y }
}

/** A double click on words types in them; on the empty picture it begins a new title there. */
function open(event: MouseEvent): void {
  const found = hit(event)
  if (found?.clip.kind === 'title') titles.editing = found.clip.id
  else if (!found && project.reel) {
    const [x, y] = local(event)
    const { width, height } = project.reel.format
    generated.type([Math.round(x - width / 2), Math.round(y - height / 2)])
  }
}

const box = () => frame.value!.getBoundingClientRect()
function grip(event: PointerEvent, what: 'resize' | 'rotation' | 'anchor' | 'Left' | 'Right' | 'Top' | 'Bottom'): void {
  const outline = only.value
  if (event.button !== 0 || !outline || locked(outline.clip)) return
  const fresh =
    project.document &&
    outlineOf(project.document, project.document.clips[outline.clip.id]!, playhead.tick.value, words.boxes.value)
  if (!fresh) return
  if (what === 'resize') drag.resize(event, fresh, box())
  else if (what === 'rotation') drag.rotate(event, fresh, box())
  else if (what === 'anchor') drag.moveAnchor(event, fresh, box())
  else if (props.mode === 'crop') drag.crop(event, fresh, what, box())
  else drag.stretch(event, fresh, box())
}

const ARROWS: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
function key(event: KeyboardEvent): void {
  if (titles.editing) return
  const arrow = ARROWS[event.key]
  const clips = selected.value.map(({ clip }) => clip).filter((clip) => !locked(clip))
  if (event.key === 'Enter' && only.value?.clip.kind === 'title') {
    event.preventDefault()
    event.stopPropagation()
    titles.editing = only.value.clip.id
  } else if (arrow && clips.length > 0 && !event.altKey && !event.ctrlKey) {
    event.preventDefault()
    event.stopPropagation()
    const step = event.shiftKey ? 10 : 1
    drag.nudge(clips, arrow[0] * step, arrow[1] * step)
  }
}
const edited = computed(() => seen.value.find(({ clip }) => clip.id === titles.editing) ?? null)
// Words that are out of sight can't be typed in.
watch(
  edited,
  (now) =>
    !now &&
    !player.playing.value &&
    titles.editing &&
    shown.value &&
    !shown.value.clips[titles.editing] &&
    (titles.editing = null),
)
</script>

<template>
  <div
    ref="frame"
    class="absolute touch-none outline-none"
    :style="{ width: `${width}px`, height: `${height}px` }"
    tabindex="0"
    role="group"
    aria-label="The picture. Select a layer; arrow keys move it."
    data-testid="viewer-overlay"
    @pointerdown="press"
    @dblclick="open"
    @keydown="key"
  >
    <svg
      v-if="!player.playing.value"
      class="pointer-events-none absolute inset-0 size-full overflow-visible"
      aria-hidden="true"
    >
      <polygon
        v-for="outline in desk.pictureTaken ? [] : selected"
        :key="outline.clip.id"
        :points="points(outline)"
        class="fill-none stroke-dusk"
        stroke-width="1.5"
      />
      <polygon
        v-if="cells.over.value"
        :points="points(cells.over.value)"
        class="fill-dusk/25 stroke-dusk"
        stroke-width="2"
      />
      <template v-for="(line, i) in drag.lines.value" :key="i">
        <line
          v-if="line.axis === 'x'"
          :x1="line.at * scale"
          :x2="line.at * scale"
          y1="0"
          :y2="height"
          class="stroke-lamp"
          stroke-width="1"
        />
        <line
          v-else
          x1="0"
          :x2="width"
          :y1="line.at * scale"
          :y2="line.at * scale"
          class="stroke-lamp"
          stroke-width="1"
        />
      </template>
      <line
        v-if="drag.levelLine.value"
        :x1="drag.levelLine.value[0][0] * scale"
        :y1="drag.levelLine.value[0][1] * scale"
        :x2="drag.levelLine.value[1][0] * scale"
        :y2="drag.levelLine.value[1][1] * scale"
        class="stroke-lamp"
        stroke-width="2"
      />
      <polyline
        v-if="path"
        :points="path.line"
        class="fill-none stroke-lamp"
        stroke-width="1.5"
        stroke-dasharray="2 4"
        stroke-linecap="round"
      />
      <line
        v-if="knob"
        :x1="knob.top[0]"
        :y1="knob.top[1]"
        :x2="knob.out[0]"
        :y2="knob.out[1]"
        class="stroke-dusk"
        stroke-width="1.5"
      />
    </svg>
    <template v-if="handled">
      <template v-if="mode === 'place'">
        <button
          v-for="(corner, i) in handles"
          :key="i"
          class="absolute size-6 -translate-1/2 cursor-nwse-resize"
          :style="{ left: `${corner[0]}px`, top: `${corner[1]}px` }"
          tabindex="-1"
          :aria-label="`Make it larger or smaller, corner ${i + 1}`"
          @pointerdown.stop="grip($event, 'resize')"
        >
          <span class="m-auto block size-2.5 rounded-xs border border-ground bg-dusk" />
        </button>
        <button
          v-if="knob"
          class="absolute size-6 -translate-1/2 cursor-grab"
          :style="{ left: `${knob.out[0]}px`, top: `${knob.out[1]}px` }"
          tabindex="-1"
          aria-label="Turn it"
          @pointerdown.stop="grip($event, 'rotation')"
        >
          <span class="m-auto block size-2.5 rounded-full border border-ground bg-dusk" />
        </button>
      </template>
      <button
        class="absolute size-5 -translate-1/2"
        :class="mode === 'anchor' ? 'cursor-move' : 'pointer-events-none'"
        :style="{ left: `${handled.anchor[0] * scale}px`, top: `${handled.anchor[1] * scale}px` }"
        tabindex="-1"
        aria-label="Move its anchor"
        @pointerdown.stop="grip($event, 'anchor')"
      >
        <span
          class="m-auto block rounded-full border-2 border-dusk bg-ground/60"
          :class="mode === 'anchor' ? 'size-3.5 border-ember' : 'size-2'"
        />
      </button>
      <button
        v-for="side in sides"
        v-show="mode === 'crop' || (mode === 'place' && (side.side === 'Left' || side.side === 'Right'))"
        :key="side.side"
        class="absolute size-6 -translate-1/2"
        :class="side.side === 'Left' || side.side === 'Right' ? 'cursor-ew-resize' : 'cursor-ns-resize'"
        :style="{ left: `${side.at[0]}px`, top: `${side.at[1]}px` }"
        tabindex="-1"
        :aria-label="mode === 'crop' ? `Crop the ${side.side.toLowerCase()}` : 'Make it wider or narrower'"
        @pointerdown.stop="grip($event, side.side)"
      >
        <span
          class="m-auto block border border-ground"
          :class="mode === 'crop' ? 'size-3 bg-ember' : 'h-3 w-1.5 bg-dusk'"
        />
      </button>
      <PathPoints v-if="path" :keys="path.keys" :clip="handled.clip" :drag="drag" />
    </template>
    <GroupHandles v-if="group.length > 1" :outlines="group" :scale="scale" :drag="drag" :frame="box" />
    <TitleCaret v-if="edited && edited.clip.kind === 'title'" :outline="edited" :scale="scale" />
    <p
      v-if="drag.words.value || cells.words.value"
      class="pointer-events-none absolute top-2 left-2 rounded-md bg-ground/85 px-2 py-0.5 font-mono text-[11px]"
    >
      {{ drag.words.value || cells.words.value }}
    </p>
  </div>
</template>
