<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { sourceTimeAt, type Clip } from '@dusk/timeline'
import { nearest } from '~/features/timeline/paint'
import type { TimelineMedia } from '~/features/timeline/strips'
import { useProject } from '~/features/project/projectStore'

/** A picture from the middle of a clip, whole, on dark ground. */
const props = defineProps<{ clip: Clip; media: TimelineMedia; loads: number }>()
const project = useProject()
const canvas = ref<HTMLCanvasElement | null>(null)

function paint(): void {
  const { clip } = props
  const target = canvas.value
  if (!target || clip.kind !== 'media') return
  const strip = project.sources[clip.assetId]?.strip
  const sheet = strip ? props.media.sheet(strip.url) : null
  if (!strip || !sheet) return
  const index = nearest(strip.times, sourceTimeAt(clip, clip.start + Math.floor(clip.length / 2)))
  const [sx, sy] = [(index % strip.columns) * strip.tileWidth, Math.floor(index / strip.columns) * strip.tileHeight]
  const scale = Math.min(target.width / strip.tileWidth, target.height / strip.tileHeight)
  const [w, h] = [strip.tileWidth * scale, strip.tileHeight * scale]
  const c = target.getContext('2d')!
  c.clearRect(0, 0, target.width, target.height)
  c.drawImage(sheet, sx, sy, strip.tileWidth, strip.tileHeight, (target.width - w) / 2, (target.height - h) / 2, w, h)
}
onMounted(paint)
watch(() => [props.clip, props.loads, project.sources], paint)
</script>

<template>
  <div class="grid aspect-video place-items-center bg-ground">
    <canvas v-if="clip.kind === 'media'" ref="canvas" width="256" height="144" class="size-full" />
    <span v-else class="text-muted">nested reel</span>
  </div>
</template>
