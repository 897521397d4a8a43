<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { useElementBounding, useFullscreen } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import Check from '@lucide/vue/dist/esm/icons/check.mjs'
import ChevronDown from '@lucide/vue/dist/esm/icons/chevron-down.mjs'
import Camera from '@lucide/vue/dist/esm/icons/camera.mjs'
import Pause from '@lucide/vue/dist/esm/icons/pause.mjs'
import Play from '@lucide/vue/dist/esm/icons/play.mjs'
import SkipBack from '@lucide/vue/dist/esm/icons/skip-back.mjs'
import SkipForward from '@lucide/vue/dist/esm/icons/skip-forward.mjs'
import StepBack from '@lucide/vue/dist/esm/icons/step-back.mjs'
import StepForward from '@lucide/vue/dist/esm/icons/step-forward.mjs'
import PictureInPicture from '@lucide/vue/dist/esm/icons/picture-in-picture-2.mjs'
import Repeat from '@lucide/vue/dist/esm/icons/repeat.mjs'
import Maximize from '@lucide/vue/dist/esm/icons/maximize.mjs'
import Minimize from '@lucide/vue/dist/esm/icons/minimize.mjs'
import { formatRate, formatSeconds, formatTimecode, reelLength, reelsOf } from '@dusk/timeline'
import { useSourceActions } from '~/features/source/useSourceActions'
import { usePlayer } from '~/features/player/usePlayhead'
import { useViewerLead } from './useViewerLink'
import { drawnSize } from '~/features/player/pictureDetail'
import { useNotices } from '~/features/ui/noticesStore'
import { useFeatures } from '~/features/registry/feature'
import { useDesk } from '~/features/timeline/deskStore'
import { useProject } from '~/features/project/projectStore'
import { useShortcuts } from '~/features/shortcuts/shortcutsStore'
import { useSource } from '~/features/player/sourceStore'
import { saveFile } from '~/features/ui/saveFile'

const project = useProject()
const desk = useDesk()
const features = useFeatures()
const source = useSource()
const shortcuts = useShortcuts()
const act = useSourceActions()
const player = usePlayer()
const notices = useNotices()
const lead = useViewerLead(player)
const canvas = ref<HTMLCanvasElement | null>(null)
const room = ref<HTMLElement | null>(null)
const panel = ref<HTMLElement | null>(null)
const whole = useFullscreen(panel)
const { left, top, width, height } = useElementBounding(room)

/** Shape and length of what is watched: the reel, or the source that is open. */
const format = computed(
  () =>
    source.reel?.project.reels[source.reel.reelId]?.format ??
    project.reel?.format ?? { width: 1920, height: 1080, rate: { num: 30, den: 1 } },
)
const length = computed(
  () => source.reel?.length ?? (project.document ? reelLength(project.document, project.reelId) : 0),
)
const reels = computed(() => (project.document ? reelsOf(project.document) : []))
const span = computed(() => {
  const { from, to } = source.range
  const show = (tick: number) => formatTimecode(tick, format.value.rate)
  return `${show(from)} → ${show(to)} · ${formatSeconds(to - from)}`
})

/** What handles on the picture do, and which lines lie over it. */
const MODES = {
  place: 'Drags on the picture move, size and turn',
  crop: 'Handles on the picture crop',
  anchor: 'The point that a picture turns and grows about is moved',
  level: 'Drag along what should be level: the picture is turned so, and grows until its corners are out of sight',
} as const
const mode = ref<keyof typeof MODES>('place')
const GUIDES = { safe: 'Safe areas', thirds: 'Thirds', middle: 'Middle', horizon: 'A level line' } as const
const guides = ref<ReadonlySet<string>>(new Set())
function toggleGuide(key: string): void {
  const next = new Set(guides.value)
  if (!next.delete(key)) next.add(key)
  guides.value = next
}
/** Screen pixels per reel pixel; 0 fits the room. */
const zoom = ref(0)
const ZOOMS = [
  { value: 0, label: 'Fit' },
  ...[0.1, 0.25, 0.5, 1, 2].map((value) => ({ value, label: `${value * 100} %` })),
]
/** How far the picture is moved in its room, while it is larger than that. */
const pan = ref({ x: 0, y: 0 })
watch(zoom, () => (pan.value = { x: 0, y: 0 }))
function panBy(event: WheelEvent): void {
  if (!zoom.value) return
  event.preventDefault()
  const most = (size: number, room: number) => Math.max(0, (size - room) / 2 + 40)
  const hold = (value: number, limit: number) => Math.min(limit, Math.max(-limit, value))
  pan.value = {
    x: hold(pan.value.x - (event.shiftKey ? event.deltaY : event.deltaX), most(box.value.width, width.value)),
    y: hold(pan.value.y - (event.shiftKey ? 0 : event.deltaY), most(box.value.height, height.value)),
  }
}

/** Room that may stay empty so that the picture is shown as it was drawn: sharper, and less work, than a bit larger. */
const SPARE = 1.1
/** The picture's box within its room, whole pixels. */
const box = computed(() => {
  const fitted = Math.min((width.value - 16) / format.value.width, (height.value - 16) / format.value.height)
  const drawn = drawnSize(format.value).width / format.value.width
  const scale = zoom.value || (fitted >= drawn && fitted <= drawn * SPARE ? drawn : fitted)
  return {
    width: Math.max(16, Math.round(format.value.width * scale)),
    height: Math.max(16, Math.round(format.value.height * scale)),
  }
})
/**
 * Parts of a pixel by which the picture is moved so that its pixels lie on the screen's: between them it would blur.
 */
const onPixels = computed(() => {
  const off = (start: number, room: number, size: number) => {
    const at = start + (room - size) / 2
    return Math.round(at * devicePixelRatio) / devicePixelRatio - at
  }
  return { x: off(left.value, width.value, box.value.width), y: off(top.value, height.value, box.value.height) }
})
const percent = computed(() => Math.round((box.value.width / format.value.width) * 100))

onMounted(() => player.attach(canvas.value!))
watch(format, (shape) => player.setShape(shape), { immediate: true })
watch([format, zoom], ([shape, scale]) => player.setDetail(shape, scale * devicePixelRatio))
watch(player.failure, (message) => message && notices.warn(message))

async function saveFrame(): Promise<void> {
  try {
    const tick = player.place()
    const png = await player.captureFrame(tick, format.value.width, format.value.height)
    const place = formatTimecode(tick, format.value.rate).replaceAll(/[:;]/g, '.')
    saveFile(png, `${project.reel?.name ?? 'frame'} ${place}.png`)
  } catch (error) {
    notices.warn((error as Error).message)
  }
}
</script>

<template>
  <section
    ref="panel"
    class="flex h-full min-w-0 flex-1 flex-col bg-ground"
    aria-label="Viewer"
    tabindex="-1"
    data-focus-home
    :data-shown-tick="player.shown.value.tick"
    :data-shown-ms="player.shown.value.ms.toFixed(1)"
    :data-pieces-helped="player.shown.value.helped"
    :data-frames-shown="player.stats.value.shown"
    :data-frames-dropped="player.stats.value.dropped"
    :data-frames-late="player.stats.value.late"
    :data-worst-lag="player.stats.value.worstLag"
    :data-underruns="player.stats.value.underruns"
    :data-playing="player.playing.value"
  >
    <div
      class="flex h-7 shrink-0 items-center gap-2 px-3 text-ground"
      :class="source.asset ? 'bg-rose' : 'bg-ivory'"
      data-testid="state-ribbon"
    >
      <template v-if="source.asset">
        <span class="font-semibold">Source</span>
        <span class="truncate">{{ source.asset.name }} — {{ span }}</span>
        <button class="ml-auto shrink-0 underline underline-offset-2" @click="act.closeSource()">
          Back to the reel
        </button>
      </template>
      <template v-else>
        <span class="font-semibold">Reel</span>
        <ChoiceList
          v-if="reels.length > 1"
          button="flex max-w-60 items-center gap-1"
          list="left-0 mt-1 max-h-56 w-60"
          label="Reel shown"
          :value="project.reelId"
          :options="reels.map(({ id, name }) => ({ value: id, label: name }))"
          @change="project.reelId = $event"
        >
          <span class="truncate underline underline-offset-2">{{ project.reel?.name }}</span>
          <ChevronDown :size="13" class="shrink-0" />
        </ChoiceList>
        <span class="truncate"
          >{{ reels.length > 1 ? '' : `${project.reel?.name}, ` }}{{ format.width }} × {{ format.height }},
          {{ formatRate(format.rate) }} frames/s</span
        >
      </template>
      <div v-if="!source.asset" class="ml-auto flex shrink-0 items-center gap-1 text-sm">
        <button
          v-for="(hint, entry) in MODES"
          :key="entry"
          class="h-5 rounded-sm px-1"
          :class="[
            mode === entry && 'bg-ground text-ivory',
            mode !== entry && (entry === 'anchor' || entry === 'level') && 'calm:hidden',
          ]"
          :aria-pressed="mode === entry"
          :title="hint"
          @click="mode = entry"
        >
          {{ entry }}
        </button>
        <Menu as="div" class="relative" :class="guides.size === 0 && 'calm:hidden'">
          <MenuButton class="h-5 rounded-sm px-1.5" :class="guides.size > 0 && 'bg-ground text-ivory'"
            >guides</MenuButton
          >
          <MenuItems
            class="absolute top-full right-0 z-30 mt-1 w-48 rounded-md border border-line bg-raised py-1 text-ivory"
          >
            <MenuItem v-for="(label, key) in GUIDES" :key="key" v-slot="{ active }">
              <button
                class="flex w-full items-center justify-between px-3 py-1 text-left"
                :class="active && 'bg-line'"
                @click.prevent="toggleGuide(key)"
              >
                {{ label }} <Check v-if="guides.has(key)" :size="14" class="text-moss" />
              </button>
            </MenuItem>
          </MenuItems>
        </Menu>
        <ChoiceList
          :value="zoom"
          :options="ZOOMS"
          button="h-5 w-12 rounded-sm px-1 text-right font-mono text-[10px] whitespace-nowrap"
          list="right-0 mt-1 w-28"
          label="Size of the picture here"
          title="Size of the picture here"
          @change="zoom = $event"
          >{{ percent }} %</ChoiceList
        >
      </div>
    </div>
    <div v-if="!source.asset" class="@container relative shrink-0">
      <template v-for="feature in features" :key="feature.id">
        <component :is="feature.viewerHead" v-if="feature.viewerHead" />
      </template>
    </div>
    <div ref="room" class="relative min-h-0 flex-1 overflow-hidden" @wheel="panBy">
      <div
        class="absolute inset-0 flex items-center justify-center"
        :style="{ transform: `translate(${pan.x + onPixels.x}px, ${pan.y + onPixels.y}px)` }"
      >
        <canvas
          ref="canvas"
          class="shrink-0"
          :style="{ width: `${box.width}px`, height: `${box.height}px` }"
          aria-label="Picture of the reel"
        />
        <GuideMarks v-if="!source.asset && guides.size > 0" :width="box.width" :height="box.height" :show="guides" />
        <ViewerOverlay
          v-if="!source.asset && length > 0"
          :width="box.width"
          :height="box.height"
          :scale="box.width / format.width"
          :mode="mode"
        />
        <template v-for="feature in features" :key="feature.id">
          <component
            :is="feature.viewerLayer"
            v-if="feature.viewerLayer && !source.asset && length > 0"
            :width="box.width"
            :height="box.height"
            :scale="box.width / format.width"
          />
        </template>
      </div>
      <p
        v-if="length === 0"
        class="absolute inset-x-0 top-1/2 mx-auto max-w-72 -translate-y-1/2 text-center text-muted"
      >
        Drag footage to the timeline, and it plays here. Double-click footage to watch it first.
      </p>
      <OriginalNote />
    </div>
    <div class="@container shrink-0 border-t border-line bg-panel px-3">
      <div class="flex min-h-12 flex-wrap items-center gap-1">
        <PositionField :rate="format.rate" />
        <span class="hidden font-mono text-[11px] text-muted @2xl:inline"
          >of {{ formatTimecode(length, format.rate) }}</span
        >
        <span v-if="player.playing.value && player.speed.value !== 1" class="ml-2 font-mono text-[11px] text-lamp"
          >{{ player.speed.value }}×</span
        >
        <div class="mx-auto flex items-center">
          <ToolButton
            class="hidden @md:inline-flex"
            title="To the start (Home)"
            label="To the start"
            @click="player.seek(0)"
          >
            <SkipBack :size="16" />
          </ToolButton>
          <ToolButton title="One frame back (←)" label="One frame back" @click="player.step(-1)">
            <StepBack :size="16" />
          </ToolButton>
          <button
            class="key size-9 justify-center rounded-full bg-raised px-0"
            :title="player.playing.value ? 'Pause (Space)' : 'Play (Space)'"
            :aria-label="player.playing.value ? 'Pause' : 'Play'"
            @click="player.toggle()"
          >
            <Pause v-if="player.playing.value" :size="18" /><Play v-else :size="18" />
          </button>
          <ToolButton title="One frame on (→)" label="One frame on" @click="player.step(1)">
            <StepForward :size="16" />
          </ToolButton>
          <ToolButton
            class="hidden @md:inline-flex"
            title="To the end (End)"
            label="To the end"
            @click="player.seek(length)"
          >
            <SkipForward :size="16" />
          </ToolButton>
        </div>
        <div class="flex items-center">
          <button
            class="key px-1.5 font-mono text-[11px]"
            :title="`Mark in (${shortcuts.keyOf('choose.markIn')})`"
            aria-label="Mark in"
            @click="act.mark('in')"
          >
            in
          </button>
          <button
            class="key px-1.5 font-mono text-[11px]"
            :title="`Mark out (${shortcuts.keyOf('choose.markOut')})`"
            aria-label="Mark out"
            @click="act.mark('out')"
          >
            out
          </button>
          <ToolButton
            :pressed="desk.looping"
            :title="`Loop the marked part (${shortcuts.keyOf('play.loop')})`"
            label="Loop the marked part"
            @click="desk.looping = !desk.looping"
          >
            <Repeat :size="15" />
          </ToolButton>
        </div>
        <LevelMeter />
        <ToolButton
          title="Save this frame as a picture, at full size"
          label="Save this frame as a picture"
          @click="saveFrame"
        >
          <Camera :size="16" />
        </ToolButton>
        <ToolButton
          class="hidden @md:inline-flex"
          title="The picture in a window of its own, for a second screen"
          label="The picture in a window of its own"
          @click="lead.open()"
        >
          <PictureInPicture :size="16" />
        </ToolButton>
        <ToolButton
          :title="whole.isFullscreen.value ? 'Back to the desk' : 'Full screen'"
          :label="whole.isFullscreen.value ? 'Back to the desk' : 'Full screen'"
          @click="whole.toggle()"
        >
          <Minimize v-if="whole.isFullscreen.value" :size="16" /><Maximize v-else :size="16" />
        </ToolButton>
      </div>
    </div>
  </section>
</template>
