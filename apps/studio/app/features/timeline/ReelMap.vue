<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, watchEffect } from 'vue'
import { reelLength, TICKS_PER_SECOND, tracksOf } from '@dusk/timeline'
import { pointerDrag } from '~/features/ui/pointerDrag'
import { readPalette } from './palette'
import { useDesk, ZOOM } from './deskStore'
import { useProject } from '~/features/project/projectStore'
import { HEADS } from './layout'

/** The whole reel in one strip. Drag the frame to scroll, its ends to zoom, or click to go there. */
const project = useProject()
const desk = useDesk()
const strip = ref<HTMLElement | null>(null)
const { width } = useElementSize(strip)

const shownTicks = computed(() => (desk.timelineWidth / desk.pixelsPerSecond) * TICKS_PER_SECOND)
const total = computed(() => {
  const length = project.document ? reelLength(project.document, project.reelId) : 0
  return Math.max(length * 1.05, desk.scroll + shownTicks.value, TICKS_PER_SECOND)
})
const toX = (tick: number) => (tick / total.value) * width.value
const canvas = ref<HTMLCanvasElement | null>(null)
const palette = readPalette()
// Painted, not built of elements: a long reel has thousands of clips.
watchEffect(() => {
  const target = canvas.value
  const document = project.document
  if (!target || !document || width.value === 0) return
  const pictures = tracksOf(document, project.reelId).filter((track) => track.kind === 'picture')
  const row = new Map(pictures.map((track, i) => [track.id, i]))
  target.width = Math.round(width.value * devicePixelRatio)
  target.height = Math.round(28 * devicePixelRatio)
  const c = target.getContext('2d')!
  c.scale(devicePixelRatio, devicePixelRatio)
  c.fillStyle = palette('clip-picture')
  for (const id in document.clips) {
    const clip = document.clips[id]!
    const place = row.get(clip.trackId)
    if (place !== undefined) c.fillRect(toX(clip.start), place > 0 ? 6 : 14, Math.max(1, toX(clip.length) - 1), 7)
  }
  for (const marker of Object.values(document.markers))
    if (marker.reelId === project.reelId) {
      c.fillStyle = palette(marker.colour)
      c.fillRect(toX(marker.at), 2, Math.max(2, toX(marker.length)), 3)
    }
})
const frame = computed(() => ({ x: toX(desk.scroll), w: Math.max(10, toX(shownTicks.value)) }))

function drag(down: PointerEvent, part: 'frame' | 'left' | 'right'): void {
  down.stopPropagation()
  const whole = total.value
  const start = { scroll: desk.scroll, end: desk.scroll + shownTicks.value }
  const move = (event: PointerEvent) => {
    const by = ((event.clientX - down.clientX) / width.value) * whole
    if (part === 'frame') desk.scroll = Math.max(0, Math.round(start.scroll + by))
    else {
      const from =
        part === 'left' ? Math.max(0, Math.min(start.scroll + by, start.end - TICKS_PER_SECOND / 10)) : start.scroll
      const to = part === 'right' ? Math.max(start.end + by, from + TICKS_PER_SECOND / 10) : start.end
      desk.pixelsPerSecond = Math.min(
        ZOOM.max,
        Math.max(ZOOM.min, desk.timelineWidth / ((to - from) / TICKS_PER_SECOND)),
      )
      desk.scroll = Math.round(from)
    }
  }
  pointerDrag(down, { move, slack: 0 })
}

function go(event: PointerEvent): void {
  const at = ((event.clientX - strip.value!.getBoundingClientRect().left) / width.value) * total.value
  desk.scroll = Math.max(0, Math.round(at - shownTicks.value / 2))
}
</script>

<template>
  <div class="flex h-7 shrink-0 items-center border-t border-line bg-panel">
    <span class="shrink-0 pl-3 text-sm text-muted" :style="{ width: `${HEADS}px` }">Whole reel</span>
    <div ref="strip" class="relative h-full flex-1 overflow-hidden" @pointerdown="go">
      <canvas ref="canvas" class="absolute inset-0 size-full" aria-hidden="true" />
      <div
        class="absolute top-0.5 bottom-0.5 cursor-grab touch-none rounded-sm border border-dusk bg-dusk/10"
        :style="{ left: `${frame.x}px`, width: `${frame.w}px` }"
        aria-hidden="true"
        @pointerdown="drag($event, 'frame')"
      >
        <div class="absolute inset-y-0 -left-1 w-2 cursor-ew-resize touch-none" @pointerdown="drag($event, 'left')" />
        <div class="absolute inset-y-0 -right-1 w-2 cursor-ew-resize touch-none" @pointerdown="drag($event, 'right')" />
      </div>
    </div>
  </div>
</template>
