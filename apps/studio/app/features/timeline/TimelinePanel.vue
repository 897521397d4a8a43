<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch, watchEffect } from 'vue'
import {
  clipEnd,
  trackClips,
  reelLength,
  slips,
  snapToFrame,
  sourceTimeAt,
  TICKS_PER_SECOND,
  type Clip,
  type Marker,
} from '@dusk/timeline'
import { pointerDrag } from '~/features/ui/pointerDrag'
import { useViewActions } from './useViewActions'
import { pointedAt } from '~/features/player/pointedAt'
import { usePlayer, usePlayhead } from '~/features/player/usePlayhead'
import { useDragSession } from './useDragSession'
import { useTimelineDrag } from './useTimelineDrag'
import { useTimelineDrop } from './useTimelineDrop'
import { useTrimDrag } from './useTrimDrag'
import { useFeatures, useOpenClip, type MenuPlace } from '~/features/registry/feature'
import { clipAt, EDGE, HEADS, rowAt, rowsHeight, rowsOf, THINNEST } from './layout'
import { paintRuler, paintTimeline } from './paint'
import { readPalette } from './palette'
import { snapTargets } from './snapping'
import { TimelineMedia } from './strips'
import { useDesk } from './deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { usePreviewProgress } from '~/features/project/previewProgressStore'
import { useProject } from '~/features/project/projectStore'
import { useSource } from '~/features/player/sourceStore'

const RULER = 24

const project = useProject()
const desk = useDesk()
const previews = usePreviewProgress()
const notices = useNotices()
const source = useSource()
const player = usePlayer()
const playhead = usePlayhead()
const { fit } = useViewActions()
const features = useFeatures()
const open = useOpenClip()
const rooms = features.flatMap((feature) => (feature.useHeadRoom ? [feature.useHeadRoom()] : []))
const heads = computed(() => HEADS + rooms.reduce((sum, room) => sum + room.value, 0))

const body = ref<HTMLElement | null>(null)
/** The tracks with their heads and the ruler. */
const board = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const ruler = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(body)
watch(width, (value) => (desk.timelineWidth = value))

const rows = computed(() => (project.document && project.reelId ? rowsOf(project.document, project.reelId) : []))
const lanes = computed(() => (project.document ? trackClips(project.document) : new Map<string, Clip[]>()))
const rate = computed(() => project.reel?.format.rate ?? { num: 30, den: 1 })
const length = computed(() => (project.document ? reelLength(project.document, project.reelId) : 0))
const lowest = () => Math.max(0, rowsHeight(rows.value) - height.value + 24)
const session = useDragSession(body, lowest)
const drag = useTimelineDrag(session, rows)
const trims = useTrimDrag(session)
const palette = readPalette()
const media = new TimelineMedia(() => schedule())
/** Counts repaints asked for from outside of what is watched. */
const repaint = ref(0)
const schedule = () => repaint.value++

function fitCanvas(target: HTMLCanvasElement, w: number, h: number): CanvasRenderingContext2D {
  const [pw, ph] = [Math.round(w * devicePixelRatio), Math.round(h * devicePixelRatio)]
  if (target.width !== pw || target.height !== ph) {
    target.width = pw
    target.height = ph
  }
  const context = target.getContext('2d', { alpha: false })!
  context.setTransform(devicePixelRatio, 0, 0, devicePixelRatio, 0, 0)
  return context
}

/** Linked clips out of sync, with by how much; worked out once for each state of the document. */
const slipping = computed(() => (project.document ? slips(project.document) : new Map<string, number>()))
const markersByClip = computed(() => {
  const map = new Map<string, Marker[]>()
  for (const marker of Object.values(project.document?.markers ?? {}))
    if (marker.clipId) map.set(marker.clipId, [...(map.get(marker.clipId) ?? []), marker])
  return map
})

let frame = 0
watchEffect(() => {
  if (!canvas.value || !ruler.value || !project.document || width.value === 0) return
  void repaint.value
  const view = {
    project: project.document,
    rows: rows.value,
    lanes: lanes.value,
    sources: project.sources,
    unready: previews.unready,
    selection: desk.selection,
    changed: session.changed.value,
    lifted: session.lifted.value,
    ghosts: session.ghosts.value,
    ghostBad: session.bad.value,
    band: session.band.value,
    slips: slipping.value,
    range: desk.range,
    markers: markersByClip.value,
    rate: rate.value,
    width: width.value,
    height: height.value,
    scroll: desk.scroll,
    scrollY: desk.scrollY,
    pixelsPerSecond: desk.pixelsPerSecond,
  }
  cancelAnimationFrame(frame)
  frame = requestAnimationFrame(() => {
    if (!canvas.value || !ruler.value) return
    paintTimeline(fitCanvas(canvas.value, view.width, view.height), view, media, palette)
    paintRuler(
      fitCanvas(ruler.value, view.width, RULER),
      view.width,
      RULER,
      view.scroll,
      view.pixelsPerSecond,
      rate.value,
      palette,
    )
  })
})
// Labels are drawn with the shipped fonts; once those are there everything is drawn again.
void document.fonts.load('500 11px "Hanken Grotesk Variable"').then(schedule)
void document.fonts.load('10px "Martian Mono Variable"').then(schedule)
watch(() => project.sources, schedule)
watch(
  () => project.document,
  (document) => document && desk.prune(document),
)

// While it plays the view follows the playhead, a page at a time.
watch(player.tick, (tick) => {
  if (!player.playing.value || source.assetId) return
  const x = desk.toX(tick)
  if (x > width.value - 40 || x < 0)
    desk.scroll = Math.max(0, tick - Math.round((60 / desk.pixelsPerSecond) * TICKS_PER_SECOND))
})

// Wherever else it is put is seen: a place that was gone to once more, too.
watch(player.sought, () => {
  if (!player.playing.value && !source.assetId) desk.reveal(player.tick.value)
})

let fitted = false
watch([width, length], () => {
  if (fitted || width.value === 0 || !project.document) return
  fitted = true
  fit()
})

function edgeAt(clip: Clip, x: number): 'start' | 'end' | null {
  const left = desk.toX(clip.start)
  const right = desk.toX(clipEnd(clip))
  const reach = Math.min(EDGE, (right - left) / 3)
  return x - left < reach ? 'start' : right - x < reach ? 'end' : null
}

/** The clip under the pointer, by where it lies; nothing where something else is in front. */
function clipUnder(event: MouseEvent): Clip | null {
  const target = event.target as HTMLElement | null
  if (target !== body.value && !target?.dataset?.clip) return null
  const at = session.local(event)
  const row = rowAt(rows.value, at.y + desk.scrollY)
  if (!row || at.y + desk.scrollY > row.top + row.height) return null
  const thinnest = (THINNEST / desk.pixelsPerSecond) * TICKS_PER_SECOND
  return clipAt(lanes.value.get(row.track.id) ?? [], desk.toTick(at.x), thinnest, desk.selection)
}

const cursor = ref('default')
function hover(event: PointerEvent): void {
  const clip = clipUnder(event)
  if (!clip) return void (cursor.value = 'default')
  const { x } = session.local(event)
  cursor.value = edgeAt(clip, x) ? 'ew-resize' : 'grab'
  const asset = 'assetId' in clip && clip.stream === null ? project.document!.assets[clip.assetId] : undefined
  if (asset) pointedAt(asset, project.sources[asset.id], sourceTimeAt(clip, desk.toTick(x)))
}

function press(event: PointerEvent): void {
  if (event.button !== 0 || !project.document) return
  const clip = clipUnder(event)
  closeMenu()
  session.onClick(null)
  if (!clip) {
    if (!event.shiftKey) desk.select([], null)
    return drag.rubberBand(event)
  }
  // One more is selected at once; one that was is left out only by a click: a drag with these keys moves them all.
  const several = event.shiftKey || event.ctrlKey || event.metaKey
  const selected = desk.selection.has(clip.id)
  if (!selected && several) desk.toggle(clip.id, project.document)
  else if (!selected) desk.select([clip.id], project.document)
  session.onClick(several && selected ? () => desk.toggle(clip.id, project.document!) : null)
  if (project.document.tracks[clip.trackId]?.locked)
    return notices.say(`${project.document.tracks[clip.trackId]!.name} is locked.`)
  const edge = edgeAt(clip, session.local(event).x)
  if (edge && desk.tool === 'roll') trims.rollEdge(event, clip, edge)
  else if (edge && desk.tool === 'stretch') trims.stretchEdge(event, clip, edge)
  else if (edge) trims.trimEdge(event, clip, edge, desk.tool === 'ripple' ? 'ripple' : 'plain')
  else if (desk.tool === 'slip') trims.slip(event, clip)
  else if (desk.tool === 'slide') trims.slide(event, clip)
  else drag.moveClips(event, clip)
}

function scrub(down: PointerEvent): void {
  if (down.button !== 0) return
  const target = down.currentTarget as HTMLElement
  const targets = project.document ? snapTargets(project.document, project.reelId, new Set(), -1) : []
  const go = (event: PointerEvent) => {
    let tick = desk.toTick(event.clientX - target.getBoundingClientRect().left)
    if (event.shiftKey) tick += session.stick([tick], targets, { ctrlKey: !desk.snap })
    playhead.scrub(Math.min(Math.max(0, snapToFrame(tick, rate.value)), length.value))
  }
  go(down)
  pointerDrag(down, { move: go, slack: 0 })
}

function wheel(event: WheelEvent): void {
  event.preventDefault()
  if (event.ctrlKey || event.metaKey) {
    desk.zoom(Math.exp(-event.deltaY * 0.0022), desk.toTick(Math.max(0, session.local(event).x)), length.value)
    return
  }
  const sideways = event.shiftKey && event.deltaX === 0 ? event.deltaY : event.deltaX
  const down = event.shiftKey ? 0 : event.deltaY
  if (sideways)
    desk.scrollTo(desk.scroll + Math.round((sideways / desk.pixelsPerSecond) * TICKS_PER_SECOND), length.value)
  if (down) desk.scrollY = Math.min(Math.max(0, desk.scrollY + down), lowest())
}
useEventListener(board, 'wheel', wheel, { passive: false })

useTimelineDrop(body, rows, session)
onBeforeUnmount(() => cancelAnimationFrame(frame))

const menu = ref<MenuPlace | null>(null)
/** Opens the menu of what lies under the pointer, or of a clip that has the focus. */
function openMenu(event: MouseEvent, focused: Clip | null = null): void {
  if (!project.document) return
  const at = session.local(event)
  const clip = focused ?? clipUnder(event)
  const row = rowAt(rows.value, at.y + desk.scrollY)
  if (!row) return
  if (clip && !desk.selection.has(clip.id)) desk.select([clip.id], project.document)
  const trackId = clip?.trackId ?? row.track.id
  menu.value = { x: event.clientX, y: event.clientY, clip, trackId, tick: Math.max(0, desk.toTick(at.x)) }
}
function closeMenu(): void {
  menu.value = null
}

/** A double click opens what a clip shows: its source, a nested reel, a title's words. */
function openClip(event: MouseEvent): void {
  const clip = clipUnder(event)
  if (clip) open(clip)
}
</script>

<template>
  <section class="flex flex-col bg-ground select-none" aria-label="Timeline" tabindex="-1" data-focus-home>
    <div ref="board" class="relative flex min-h-0 flex-1">
      <TrackHeads :rows="rows" :width="heads" :height="height" :ruler="RULER" :session="session" />
      <div class="relative min-w-0 flex-1 overflow-hidden">
        <canvas
          ref="ruler"
          class="block w-full cursor-pointer touch-none"
          :style="{ height: `${RULER}px` }"
          aria-label="Times. Drag to move the playhead."
          @pointerdown="scrub"
        />
        <template v-for="feature in features" :key="feature.id">
          <component :is="feature.timeline.ruler" v-if="feature.timeline?.ruler" :height="RULER" />
        </template>
        <div
          ref="body"
          class="absolute inset-x-0 bottom-0 touch-none overflow-hidden"
          :style="{ top: `${RULER}px`, cursor }"
          data-testid="timeline-body"
          @pointerdown="press"
          @pointermove="hover"
          @contextmenu.prevent="openMenu($event)"
          @dblclick="openClip"
        >
          <canvas ref="canvas" class="pointer-events-none absolute inset-0 size-full" />
          <ClipElements
            :rows="rows"
            :lanes="lanes"
            :changed="session.changed.value"
            :width="width"
            :height="height"
            @menu="openMenu"
          />
          <template v-for="feature in features" :key="feature.id">
            <component
              :is="feature.timeline.overlay"
              v-if="feature.timeline?.overlay"
              :rows="rows"
              :width="width"
              :height="height"
            />
          </template>
          <div
            v-if="session.snapLine.value"
            class="pointer-events-none absolute inset-y-0 w-px bg-lamp"
            :style="{ left: `${desk.toX(session.snapLine.value.tick)}px` }"
          >
            <span class="absolute top-1 left-1 rounded-sm bg-ground/90 px-1 text-[10px] whitespace-nowrap text-lamp">{{
              session.snapLine.value.name
            }}</span>
          </div>
          <p
            v-if="session.label.value"
            class="pointer-events-none absolute z-20 rounded-md border bg-raised px-2 py-0.5 text-sm whitespace-nowrap"
            :class="session.label.value.bad ? 'border-rose text-rose' : 'border-line'"
            :style="{
              left: `${Math.min(session.label.value.x + 14, Math.max(width - 280, 0))}px`,
              top: `${Math.max(session.label.value.y - 30, 2)}px`,
            }"
          >
            {{ session.label.value.words }}
          </p>
          <p v-if="length === 0" class="pointer-events-none absolute inset-x-0 top-8 text-center text-muted">
            Drag footage here to begin the reel.
          </p>
        </div>
        <PlayheadLine :rate="rate" />
      </div>
    </div>
    <template v-for="feature in features" :key="feature.id">
      <component :is="feature.timeline.panel" v-if="feature.timeline?.panel" :heads="heads" :width="width" />
    </template>
    <ReelMap />
    <TimelineMenu v-if="menu" :place="menu" @close="closeMenu" />
  </section>
</template>
