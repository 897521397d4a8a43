<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { useElementSize, useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch, watchEffect } from 'vue'
import Plus from '@lucide/vue/dist/esm/icons/plus.mjs'
import {
  clipEnd,
  clipsByTrack,
  formatSeconds,
  formatTimecode,
  reelLength,
  snapToFrame,
  TICKS_PER_SECOND,
  type Clip,
  type Purpose,
} from '@dusk/timeline'
import { useDeskActions, usePlayer } from '~/composables/useDeskActions'
import { KEYS, useDeskKeys } from '~/composables/useDeskKeys'
import { EDGE, useTimelineDrag } from '~/composables/useTimelineDrag'
import { planPlace, STILL_LENGTH, type DropPlan } from '~/lib/timeline/drop'
import { rowAt, rowsHeight, rowsOf } from '~/lib/timeline/layout'
import { firstVisible, paintRuler, paintTimeline, readPalette } from '~/lib/timeline/paint'
import { snapTargets } from '~/lib/timeline/snapping'
import { TimelineMedia } from '~/lib/timeline/strips'
import { useDesk } from '~/stores/desk'
import { useNotices } from '~/stores/notices'
import { useProject } from '~/stores/project'

const RULER = 24
const HEADS = 184

const project = useProject()
const desk = useDesk()
const notices = useNotices()
const player = usePlayer()
const actions = useDeskActions()
useDeskKeys()

const body = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const ruler = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(body)
watch(width, (value) => (desk.timelineWidth = value))

const rows = computed(() => (project.document && project.reelId ? rowsOf(project.document, project.reelId) : []))
const lanes = computed(() => (project.document ? clipsByTrack(project.document) : new Map<string, Clip[]>()))
const rate = computed(() => project.reel?.format.rate ?? { num: 30, den: 1 })
const length = computed(() => (project.document ? reelLength(project.document, project.reelId) : 0))
const drag = useTimelineDrag(body, rows)
const palette = readPalette()
const media = new TimelineMedia(() => schedule())
/** Counts repaints asked for from outside of what is watched. */
const repaint = ref(0)
const schedule = () => repaint.value++

/** Clips on screen: each has a real element over its picture, for pointer, keyboard and screen reader. */
const visible = computed(() => {
  const left = desk.scroll
  const right = desk.toTick(width.value)
  const found: { clip: Clip; x: number; y: number; w: number; h: number; label: string }[] = []
  for (const row of rows.value) {
    const clips = lanes.value.get(row.track.id) ?? []
    for (let i = firstVisible(clips, left); i < clips.length && clips[i]!.start < right; i++) {
      const clip = drag.changed.value.get(clips[i]!.id) ?? clips[i]!
      const x = desk.toX(clip.start)
      const name = clip.name ?? project.document!.assets[clip.assetId]?.name ?? 'clip'
      found.push({
        clip,
        x,
        y: row.top - desk.scrollY,
        w: Math.max(2, desk.toX(clipEnd(clip)) - x),
        h: row.height,
        label: `${name} on ${row.track.name}, from ${formatTimecode(clip.start, rate.value)}, ${formatSeconds(clip.length)}`,
      })
    }
  }
  return found
})

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

let frame = 0
watchEffect(() => {
  if (!canvas.value || !ruler.value || !project.document || width.value === 0) return
  void repaint.value
  const view = {
    project: project.document,
    rows: rows.value,
    lanes: lanes.value,
    sources: project.sources,
    selection: desk.selection,
    changed: drag.changed.value,
    lifted: drag.lifted.value,
    ghosts: drag.ghosts.value,
    ghostBad: drag.bad.value,
    band: drag.band.value,
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
watch(() => project.document, (document) => document && desk.prune(document)) // prettier-ignore

// While it plays the view follows the playhead, a page at a time.
watch(player.tick, (tick) => {
  if (!player.playing.value) return
  const x = desk.toX(tick)
  if (x > width.value - 40 || x < 0)
    desk.scroll = Math.max(0, tick - Math.round((60 / desk.pixelsPerSecond) * TICKS_PER_SECOND))
})

let fitted = false
watch([width, length], () => {
  if (fitted || width.value === 0 || !project.document) return
  fitted = true
  actions.fit()
})

function edgeAt(clip: Clip, x: number): 'start' | 'end' | null {
  const left = desk.toX(clip.start)
  const right = desk.toX(clipEnd(clip))
  const reach = Math.min(EDGE, (right - left) / 3)
  return x - left < reach ? 'start' : right - x < reach ? 'end' : null
}

const cursor = ref('default')
function hover(event: PointerEvent): void {
  const id = (event.target as HTMLElement).dataset.clip
  const clip = id ? project.document?.clips[id] : undefined
  if (!clip) cursor.value = 'default'
  else cursor.value = edgeAt(clip, drag.local(event).x) ? 'ew-resize' : 'grab'
}

function press(event: PointerEvent): void {
  if (event.button !== 0 || !project.document) return
  const id = (event.target as HTMLElement).dataset.clip
  const clip = id ? project.document.clips[id] : undefined
  closeMenu()
  if (!clip) {
    if (!event.shiftKey) desk.select([], null)
    return drag.rubberBand(event)
  }
  if (event.shiftKey || event.ctrlKey || event.metaKey) return desk.toggle(clip.id, project.document)
  if (!desk.selection.has(clip.id)) desk.select([clip.id], project.document)
  if (project.document.tracks[clip.trackId]?.locked)
    return notices.say(`${project.document.tracks[clip.trackId]!.name} is locked.`)
  const edge = edgeAt(clip, drag.local(event).x)
  if (edge) drag.trimEdge(event, clip, edge)
  else drag.moveClips(event, clip)
}

function scrub(down: PointerEvent): void {
  if (down.button !== 0) return
  const target = down.currentTarget as HTMLElement
  target.setPointerCapture(down.pointerId)
  const targets = project.document ? snapTargets(project.document, project.reelId, new Set(), -1) : []
  const go = (event: PointerEvent) => {
    let tick = desk.toTick(event.clientX - target.getBoundingClientRect().left)
    if (event.shiftKey) tick += drag.stick([tick], targets, { ctrlKey: !desk.snap })
    player.seek(Math.min(Math.max(0, snapToFrame(tick, rate.value)), length.value))
  }
  go(down)
  target.addEventListener('pointermove', go)
  target.addEventListener('lostpointercapture', () => target.removeEventListener('pointermove', go), { once: true })
}

function wheel(event: WheelEvent): void {
  event.preventDefault()
  if (event.ctrlKey || event.metaKey) {
    const box = body.value!.getBoundingClientRect()
    desk.zoom(Math.exp(-event.deltaY * 0.0022), event.clientX - box.left)
    return
  }
  const sideways = event.shiftKey && event.deltaX === 0 ? event.deltaY : event.deltaX
  const down = event.shiftKey ? 0 : event.deltaY
  if (sideways)
    desk.scroll = Math.max(0, desk.scroll + Math.round((sideways / desk.pixelsPerSecond) * TICKS_PER_SECOND))
  if (down)
    desk.scrollY = Math.min(Math.max(0, desk.scrollY + down), Math.max(0, rowsHeight(rows.value) - height.value + 24))
}
useEventListener(body, 'wheel', wheel, { passive: false })

// Footage dragged in from the library.
let plan: DropPlan | null = null
let stopDrop = () => {}
onMounted(() => {
  const follow = (input: { clientX: number; clientY: number; altKey: boolean; ctrlKey: boolean }, assetId: string) => {
    const asset = project.document?.assets[assetId]
    if (!project.document || !asset) return
    const box = body.value!.getBoundingClientRect()
    const at = { x: input.clientX - box.left, y: input.clientY - box.top }
    const long = asset.kind === 'still' ? STILL_LENGTH : asset.length
    let start = Math.max(0, desk.toTick(at.x))
    const targets = snapTargets(project.document, project.reelId, new Set(), player.tick.value)
    start = Math.max(0, start + drag.stick([start, start + long], targets, input))
    plan = planPlace(
      project.document,
      rows.value,
      [{ asset }],
      rowAt(rows.value, at.y + desk.scrollY)?.track ?? null,
      snapToFrame(start, rate.value),
      input.altKey,
    )
    drag.ghosts.value = plan.ghosts
    drag.bad.value = !plan.command
    drag.label.value = { words: plan.words, bad: !plan.command, ...at }
  }
  stopDrop = dropTargetForElements({
    element: body.value!,
    canDrop: ({ source }) => source.data.kind === 'asset',
    onDrag: ({ source, location }) => follow(location.current.input, source.data.assetId as string),
    onDragLeave: () => {
      plan = null
      drag.clear()
    },
    onDrop: ({ source, location }) => {
      follow(location.current.input, source.data.assetId as string)
      const now = plan
      plan = null
      drag.clear()
      if (now?.command) project.perform(now.command)
      else if (now) notices.warn(now.words)
    },
  })
})
onBeforeUnmount(() => {
  stopDrop()
  cancelAnimationFrame(frame)
})

// The menu of a clip or a gap.
const menu = ref<{ x: number; y: number; clip: Clip | null; trackId: string; tick: number } | null>(null)
function openMenu(event: MouseEvent): void {
  if (!project.document) return
  const at = drag.local(event)
  const id = (event.target as HTMLElement).dataset.clip
  const clip = id ? (project.document.clips[id] ?? null) : null
  const row = rowAt(rows.value, at.y + desk.scrollY)
  if (!row) return
  if (clip && !desk.selection.has(clip.id)) desk.select([clip.id], project.document)
  menu.value = { x: event.clientX, y: event.clientY, clip, trackId: row.track.id, tick: desk.toTick(at.x) }
}
function closeMenu(): void {
  menu.value = null
}
useEventListener(document, 'keydown', (event) => event.key === 'Escape' && closeMenu())
const menuItems = computed(() => {
  const open = menu.value
  if (!open) return []
  if (!open.clip)
    return [
      {
        label: 'Close up this gap',
        key: '',
        run: () => project.perform({ type: 'closeGap', trackId: open.trackId, at: Math.max(0, open.tick) }),
      },
    ]
  return [
    { label: 'Split at the playhead', key: KEYS.split, run: () => actions.split() },
    {
      label: 'Split here',
      key: '',
      run: () =>
        project.perform({
          type: 'split',
          reelId: project.reelId,
          at: snapToFrame(open.tick, rate.value),
          clipIds: [open.clip!.id],
        }),
    },
    { label: 'Remove, leave the gap', key: KEYS.remove, run: () => actions.remove(false) },
    { label: 'Remove and close up', key: KEYS.closeUp, run: () => actions.remove(true) },
  ]
})

const PURPOSES: { purpose: Purpose; label: string }[] = [
  { purpose: 'picture', label: 'Picture' },
  { purpose: 'voice', label: 'Voice' },
  { purpose: 'music', label: 'Music' },
  { purpose: 'effects', label: 'Effects' },
  { purpose: 'ambience', label: 'Ambience' },
]
const frontId = computed(() => rows.value.find((row) => row.track.kind === 'picture' && !row.track.hidden)?.track.id)
const manyPictures = computed(() => rows.value.filter((row) => row.track.kind === 'picture').length > 1)
const playheadX = computed(() => desk.toX(player.tick.value))

function clipKey(event: KeyboardEvent, clip: Clip): void {
  if (event.key !== 'Enter') return
  event.preventDefault()
  if (event.shiftKey) desk.toggle(clip.id, project.document!)
  else desk.select([clip.id], project.document)
}
</script>

<template>
  <section class="flex h-full flex-col bg-ground" aria-label="Timeline">
    <TimelineToolbar />
    <div class="relative flex min-h-0 flex-1">
      <div
        class="relative z-10 shrink-0 overflow-hidden border-r border-line bg-ground"
        :style="{ width: `${HEADS}px` }"
      >
        <Menu as="div" class="relative z-30 border-b border-line bg-panel" :style="{ height: `${RULER}px` }">
          <MenuButton class="flex h-full w-full items-center gap-1.5 px-3 text-sm text-muted hover:text-ivory"
            ><Plus :size="13" /> track</MenuButton
          >
          <MenuItems class="absolute top-full left-2 w-36 rounded-md border border-line bg-raised py-1">
            <MenuItem v-for="entry in PURPOSES" :key="entry.purpose" v-slot="{ active }">
              <button
                class="flex w-full items-center gap-2 px-3 py-1 text-left"
                :class="active && 'bg-line'"
                @click="project.perform({ type: 'addTrack', reelId: project.reelId, purpose: entry.purpose })"
              >
                <span class="size-2.5 rounded-full" :style="{ background: `var(--color-clip-${entry.purpose})` }" />{{
                  entry.label
                }}
              </button>
            </MenuItem>
          </MenuItems>
        </Menu>
        <div
          v-for="row in rows"
          :key="row.track.id"
          class="absolute inset-x-0"
          :style="{ top: `${RULER + row.top - desk.scrollY}px`, height: `${row.height}px` }"
        >
          <TrackHead :track="row.track" :front="manyPictures && row.track.id === frontId" />
        </div>
      </div>
      <div class="relative min-w-0 flex-1 overflow-hidden">
        <canvas
          ref="ruler"
          class="block w-full cursor-pointer touch-none"
          :style="{ height: `${RULER}px` }"
          aria-label="Times. Drag to move the playhead."
          @pointerdown="scrub"
        />
        <div
          ref="body"
          class="absolute inset-x-0 bottom-0 touch-none overflow-hidden"
          :style="{ top: `${RULER}px`, cursor }"
          data-testid="timeline-body"
          @pointerdown="press"
          @pointermove="hover"
          @contextmenu.prevent="openMenu"
        >
          <canvas ref="canvas" class="pointer-events-none absolute inset-0 size-full" />
          <div
            v-for="entry in visible"
            :key="entry.clip.id"
            :data-clip="entry.clip.id"
            class="absolute rounded-sm"
            role="button"
            tabindex="0"
            :aria-label="entry.label"
            :aria-pressed="desk.selection.has(entry.clip.id)"
            :style="{
              transform: `translate(${entry.x}px, ${entry.y}px)`,
              width: `${entry.w}px`,
              height: `${entry.h}px`,
            }"
            @keydown="clipKey($event, entry.clip)"
          />
          <div
            v-if="drag.snapLine.value"
            class="pointer-events-none absolute inset-y-0 w-px bg-lamp"
            :style="{ left: `${desk.toX(drag.snapLine.value.tick)}px` }"
          >
            <span class="absolute top-1 left-1 rounded-sm bg-ground/90 px-1 text-[10px] whitespace-nowrap text-lamp">{{
              drag.snapLine.value.name
            }}</span>
          </div>
          <p
            v-if="drag.label.value"
            class="pointer-events-none absolute z-20 rounded-md border bg-raised px-2 py-0.5 text-sm whitespace-nowrap"
            :class="drag.label.value.bad ? 'border-rose text-rose' : 'border-line'"
            :style="{
              left: `${Math.min(drag.label.value.x + 14, Math.max(width - 280, 0))}px`,
              top: `${Math.max(drag.label.value.y - 30, 2)}px`,
            }"
          >
            {{ drag.label.value.words }}
          </p>
          <p v-if="length === 0" class="pointer-events-none absolute inset-x-0 top-8 text-center text-muted">
            Drag footage here to begin the reel.
          </p>
        </div>
        <div
          class="pointer-events-none absolute inset-y-0 z-10 w-px bg-ivory"
          :style="{ transform: `translateX(${playheadX}px)` }"
          data-testid="playhead"
        >
          <span
            class="absolute top-0.5 left-0 -translate-x-1/2 rounded-md bg-ember px-1.5 font-mono text-[10px] leading-[18px] font-semibold text-ground"
            :style="{ marginLeft: `${Math.max(0, 36 - playheadX)}px` }"
            >{{ formatTimecode(player.tick.value, rate).replace(/^0:0?/, '') }}</span
          >
        </div>
      </div>
    </div>
    <ReelMap />
    <ul
      v-if="menu"
      class="fixed z-40 w-56 rounded-md border border-line bg-raised py-1"
      role="menu"
      :style="{ left: `${menu.x}px`, top: `${menu.y}px`, transform: 'translateY(-100%)' }"
    >
      <li v-for="item in menuItems" :key="item.label" role="none">
        <button
          class="flex w-full items-center justify-between px-3 py-1 text-left hover:bg-line"
          role="menuitem"
          @click="(item.run(), closeMenu())"
        >
          {{ item.label }} <span class="font-mono text-[10px] text-muted">{{ item.key }}</span>
        </button>
      </li>
    </ul>
  </section>
</template>
