<script setup lang="ts">
import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { useElementSize } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch, watchEffect } from 'vue'
import ArrowDownToLine from '@lucide/vue/dist/esm/icons/arrow-down-to-line.mjs'
import ArrowRightToLine from '@lucide/vue/dist/esm/icons/arrow-right-to-line.mjs'
import BetweenVerticalStart from '@lucide/vue/dist/esm/icons/between-vertical-start.mjs'
import Bookmark from '@lucide/vue/dist/esm/icons/bookmark-plus.mjs'
import GripVertical from '@lucide/vue/dist/esm/icons/grip-vertical.mjs'
import Layers from '@lucide/vue/dist/esm/icons/layers.mjs'
import Replace from '@lucide/vue/dist/esm/icons/replace.mjs'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { formatSeconds, formatTimecode, snapToFrame, ticksPerFrame, type Subclip } from '@dusk/timeline'
import { pointerDrag } from '~/features/ui/pointerDrag'
import type { DraggedParts } from '~/features/timeline/drop'
import { useSourceActions } from './useSourceActions'
import { useFollowPlay, usePlayer } from '~/features/player/usePlayhead'
import { readPalette } from '~/features/timeline/palette'
import { paintSource } from './paintSource'
import { TimelineMedia } from '~/features/timeline/strips'
import { useDesk } from '~/features/timeline/deskStore'
import { useProject } from '~/features/project/projectStore'
import { useShortcuts } from '~/features/shortcuts/shortcutsStore'
import { useSource, type SourceParts } from '~/features/player/sourceStore'

/** The open source as a film strip with its sound: marks are dragged on it, parts are kept or go into the reel. */
const project = useProject()
const desk = useDesk()
const source = useSource()
const player = usePlayer()
const act = useSourceActions()
const shortcuts = useShortcuts()
const strip = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const grip = ref<HTMLElement | null>(null)
const { width, height } = useElementSize(strip)
const repaint = ref(0)
const media = new TimelineMedia(() => repaint.value++)
const palette = readPalette()
const renaming = ref<string | null>(null)

const length = computed(() => source.reel?.length ?? 1)
const rate = computed(() => source.reel?.rate ?? { num: 30, den: 1 })
const toX = (tick: number) => (tick / length.value) * width.value
const line = ref<HTMLElement | null>(null)
useFollowPlay(line, toX)
const toTick = (x: number) =>
  Math.min(Math.max(snapToFrame((x / width.value) * length.value, rate.value), 0), length.value)
const both = computed(() => source.asset?.kind === 'video' && source.asset.sounds.length > 0)
const PARTS: { value: SourceParts; label: string }[] = [
  { value: 'both', label: 'Picture and sound' },
  { value: 'picture', label: 'Picture only' },
  { value: 'sound', label: 'Sound only' },
]

watchEffect(() => {
  if (!canvas.value || !source.asset || width.value === 0) return
  void repaint.value
  const [w, h] = [Math.round(width.value * devicePixelRatio), Math.round(height.value * devicePixelRatio)]
  canvas.value.width = w
  canvas.value.height = h
  const context = canvas.value.getContext('2d')!
  context.scale(devicePixelRatio, devicePixelRatio)
  paintSource(
    context,
    width.value,
    height.value,
    source.asset,
    project.sources[source.asset.id],
    length.value,
    media,
    palette,
  )
})

function scrub(down: PointerEvent): void {
  if (down.button !== 0) return
  const go = (event: PointerEvent) => player.scrub(toTick(event.clientX - strip.value!.getBoundingClientRect().left))
  go(down)
  pointerDrag(down, { move: go })
}

function dragMark(down: PointerEvent, edge: 'in' | 'out'): void {
  down.stopPropagation()
  const move = (event: PointerEvent) => {
    const tick = toTick(event.clientX - strip.value!.getBoundingClientRect().left)
    const other = edge === 'in' ? source.range.to : source.range.from
    if (edge === 'in' ? tick >= other : tick <= other) return
    source.mark(edge, tick)
    player.peek(edge === 'in' ? tick : tick - 1)
  }
  pointerDrag(down, { move, slack: 0, end: () => player.refresh() })
}

/** Arrow keys move a mark by frames. */
function nudgeMark(event: KeyboardEvent, edge: 'in' | 'out'): void {
  const step = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
  if (step === 0) return
  event.preventDefault()
  event.stopPropagation()
  const frame = (length.value / Math.round(length.value / ticksPerFrame(rate.value))) * (event.shiftKey ? 10 : 1)
  source.mark(edge, snapToFrame((edge === 'in' ? source.range.from : source.range.to) + step * frame, rate.value))
}

const dragged = (from: number, to: number): DraggedParts & Record<string, unknown> => ({
  kind: 'parts',
  parts: [{ assetId: source.assetId!, from, length: to - from, use: source.parts }],
})
let stop = () => {}
onMounted(() => {
  stop = draggable({ element: grip.value!, getInitialData: () => dragged(source.range.from, source.range.to) })
})
onBeforeUnmount(() => stop())
const chips = new Map<string, () => void>()
/** Every pick can be dragged to the timeline by itself. */
function chip(element: unknown, pick: Subclip): void {
  chips.get(pick.id)?.()
  chips.delete(pick.id)
  if (element instanceof HTMLElement)
    chips.set(pick.id, draggable({ element, getInitialData: () => dragged(pick.from, pick.to) }))
}

function choosePick(pick: Subclip): void {
  source.from = pick.from
  source.to = pick.to
  player.seek(pick.from)
}

function endRename(event: Event, pick: Subclip): void {
  const name = (event.target as HTMLInputElement).value.trim()
  renaming.value = null
  if (name && name !== pick.name) project.perform({ type: 'setSubclip', subclipId: pick.id, set: { name } })
}
watch(
  () => source.assetId,
  () => (renaming.value = null),
)
const stripHint = () =>
  `Mark in and out (${shortcuts.keyOf('choose.markIn')}, ${shortcuts.keyOf('choose.markOut')}), ` +
  'then put the part into the reel or keep it as a pick.'
const hint = (words: string, action: string) => `${words} (${shortcuts.keyOf(action)})`

function markAt(edge: 'in' | 'out'): number {
  return edge === 'in' ? source.range.from : source.range.to
}
</script>

<template>
  <section
    class="flex shrink-0 flex-col border-b border-line bg-panel pb-1.5"
    aria-label="Source"
    data-testid="source-strip"
  >
    <div class="flex h-9 shrink-0 items-center gap-1 overflow-hidden px-2">
      <span
        ref="grip"
        class="grid h-7 cursor-grab place-items-center rounded-md bg-raised px-1 text-rose"
        title="Drag the marked part to the timeline"
        aria-hidden="true"
        ><GripVertical :size="15"
      /></span>
      <button class="key" :title="hint('Later clips make room', 'choose.insert')" @click="act.use('insert')">
        <BetweenVerticalStart :size="15" /> Insert here
      </button>
      <button class="key" :title="hint('Covers what is there', 'choose.over')" @click="act.use('over')">
        <ArrowDownToLine :size="15" /> Lay over
      </button>
      <button class="key" :title="hint('Behind the last clip', 'choose.append')" @click="act.use('append')">
        <ArrowRightToLine :size="15" /> Add to end
      </button>
      <button class="key" :title="hint('In front of what is there', 'choose.stack')" @click="act.use('stack')">
        <Layers :size="15" /> Stack above
      </button>
      <button
        class="key"
        :disabled="desk.selection.size === 0"
        :title="hint('Instead of the selected clip, as long as it is', 'choose.replace')"
        @click="act.replace()"
      >
        <Replace :size="15" /> Replace
      </button>
      <ChoiceList
        v-if="both"
        class="w-36"
        label="What of it goes into the reel"
        :value="source.parts"
        :options="PARTS"
        @change="source.parts = $event"
      />
      <button
        class="key ml-auto"
        :title="hint('Keep the marked part under a name', 'choose.keepPick')"
        @click="act.keepPick()"
      >
        <Bookmark :size="15" /> Keep as pick
      </button>
      <button
        class="key px-1.5"
        :title="hint('Back to the reel', 'choose.closeSource')"
        aria-label="Close the source"
        @click="act.closeSource()"
      >
        <X :size="16" />
      </button>
    </div>
    <div
      ref="strip"
      class="relative mx-2 h-15 touch-none overflow-hidden rounded-sm"
      :title="stripHint()"
      @pointerdown="scrub"
    >
      <canvas ref="canvas" class="absolute inset-0 size-full" />
      <div class="absolute inset-y-0 left-0 bg-ground/75" :style="{ width: `${toX(source.range.from)}px` }" />
      <div class="absolute inset-y-0 right-0 bg-ground/75" :style="{ left: `${toX(source.range.to)}px` }" />
      <div
        v-for="pick in source.subclips"
        :key="pick.id"
        class="absolute bottom-0 h-1 rounded-full bg-lamp"
        :style="{ left: `${toX(pick.from)}px`, width: `${Math.max(3, toX(pick.to) - toX(pick.from))}px` }"
      />
      <button
        v-for="edge in ['in', 'out'] as const"
        :key="edge"
        class="absolute inset-y-0 w-3 cursor-ew-resize touch-none border-rose bg-rose/25"
        :class="edge === 'in' ? 'rounded-l-sm border-l-2' : '-translate-x-full rounded-r-sm border-r-2'"
        :style="{ left: `${toX(markAt(edge))}px` }"
        :aria-label="`Mark ${edge} at ${formatTimecode(markAt(edge), rate)}. Arrow keys move it.`"
        :title="hint(edge === 'in' ? 'Mark in' : 'Mark out', edge === 'in' ? 'choose.markIn' : 'choose.markOut')"
        @pointerdown="dragMark($event, edge)"
        @keydown="nudgeMark($event, edge)"
      />
      <div
        ref="line"
        class="pointer-events-none absolute inset-y-0 w-px bg-ivory will-change-transform"
        :style="{ transform: `translateX(${toX(player.tick.value)}px)` }"
      />
    </div>
    <div v-if="source.subclips.length > 0" class="flex h-7 shrink-0 items-end gap-1.5 overflow-x-auto px-2">
      <template v-for="pick in source.subclips" :key="pick.id">
        <input
          v-if="renaming === pick.id"
          class="field h-6 w-32"
          :value="pick.name"
          aria-label="Name of the pick"
          maxlength="200"
          @vue:mounted="($event.el as HTMLInputElement).select()"
          @blur="endRename($event, pick)"
          @keydown.enter="endRename($event, pick)"
          @keydown.esc="renaming = null"
          @keydown.stop
        />
        <span
          v-else
          :ref="(element) => chip(element, pick)"
          class="flex h-6 shrink-0 cursor-grab items-center gap-1.5 rounded-full bg-raised pr-1 pl-2.5 text-sm"
          :class="source.from === pick.from && source.to === pick.to && 'outline-1 outline-lamp'"
        >
          <button
            :title="`${pick.name}: mark this part. Double-click to rename.`"
            @click="choosePick(pick)"
            @dblclick="renaming = pick.id"
          >
            {{ pick.name }}
            <span class="font-mono text-[10px] text-muted">{{ formatSeconds(pick.to - pick.from) }}</span>
          </button>
          <button
            class="grid size-5 place-items-center text-muted hover:text-ivory"
            :aria-label="`Remove the pick ${pick.name}`"
            @click="project.perform({ type: 'removeSubclip', subclipId: pick.id })"
          >
            <X :size="12" />
          </button>
        </span>
      </template>
    </div>
  </section>
</template>
