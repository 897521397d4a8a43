<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import AudioLines from '@lucide/vue/dist/esm/icons/audio-lines.mjs'
import Info from '@lucide/vue/dist/esm/icons/info.mjs'
import { formatShort, type Asset } from '@dusk/timeline'
import type { SourceState } from '~~/server/utils/sources'
import { pointedAt } from '~/features/player/pointedAt'
import { usePreviewProgress } from '~/features/project/previewProgressStore'

/** A source in the library as a picture. Moving over it skims it. */
const props = defineProps<{ asset: Asset; source: SourceState | undefined; used: boolean; selected: boolean }>()
const canvas = ref<HTMLCanvasElement | null>(null)
const skim = ref<number | null>(null)
let sheet: ImageBitmap | null = null
let sheetUrl = ''
const previews = usePreviewProgress()

onMounted(() => void load())
watch(() => props.source?.strip?.url, load)

async function load(): Promise<void> {
  const url = props.source?.strip?.url
  if (!url || url === sheetUrl) return
  const response = await fetch(url)
  if (!response.ok) return
  const picture = await createImageBitmap(await response.blob())
  // A better one may have come meanwhile.
  if (url !== props.source?.strip?.url) return
  ;[sheet, sheetUrl] = [picture, url]
  paint(skim.value ?? 0.25)
}

/** Draws the strip's picture at a part of its length. */
function paint(part: number): void {
  const target = canvas.value
  const strip = props.source?.strip
  if (!target || !strip || !sheet) return
  const index = Math.min(strip.times.length - 1, Math.floor(part * strip.times.length))
  const context = target.getContext('2d')!
  const scale = Math.max(target.width / strip.tileWidth, target.height / strip.tileHeight)
  const contain =
    props.asset.picture!.height > props.asset.picture!.width
      ? Math.min(target.width / strip.tileWidth, target.height / strip.tileHeight)
      : scale
  const [w, h] = [strip.tileWidth * contain, strip.tileHeight * contain]
  context.clearRect(0, 0, target.width, target.height)
  context.drawImage(
    sheet,
    (index % strip.columns) * strip.tileWidth,
    Math.floor(index / strip.columns) * strip.tileHeight,
    strip.tileWidth,
    strip.tileHeight,
    (target.width - w) / 2,
    (target.height - h) / 2,
    w,
    h,
  )
}

function move(event: PointerEvent): void {
  if (props.asset.kind !== 'video') return
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  skim.value = Math.min(Math.max((event.clientX - box.left) / box.width, 0), 0.999)
  paint(skim.value)
  pointedAt(props.asset, props.source, skim.value * props.asset.length)
}

function leave(): void {
  skim.value = null
  paint(0.25)
}
</script>

<template>
  <div class="cursor-grab">
    <div
      class="relative aspect-video overflow-hidden rounded-md bg-ground"
      :class="selected && 'outline-2 outline-dusk'"
      @pointermove="move"
      @pointerleave="leave"
    >
      <canvas v-if="asset.kind !== 'sound'" ref="canvas" width="208" height="117" class="size-full" />
      <WavePicture v-else-if="source?.sounds[0]?.ready" :url="source.sounds[0].waveformUrl" class="text-muted" />
      <span
        v-if="asset.label"
        class="absolute inset-y-0 left-0 w-1"
        :style="{ background: `var(--color-${asset.label})` }"
      />
      <AudioLines v-if="asset.kind === 'sound'" :size="13" class="absolute top-1 left-1.5 text-muted" />
      <div v-if="skim !== null" class="absolute inset-y-0 w-px bg-ember" :style="{ left: `${skim * 100}%` }" />
      <Info v-if="source?.notes.length" :size="13" class="absolute top-1 right-1 text-lamp" />
      <div v-if="source?.missing || (source && source.state !== 'ready')" class="absolute inset-x-1 bottom-1">
        <p v-if="source.missing" class="rounded-sm bg-ground/85 px-1 text-[10px] text-rose">file is missing</p>
        <p v-else-if="source.state === 'failed'" class="rounded-sm bg-ground/85 px-1 text-[10px] text-rose">
          {{ source.message }}
        </p>
        <template v-else>
          <p class="mb-0.5 w-fit rounded-sm bg-ground/85 px-1 text-[10px]">{{ previews.wordsOf(asset.id) }}</p>
          <div class="h-1 rounded-full bg-line">
            <div class="h-full rounded-full bg-ember" :style="{ width: `${source.progress * 100}%` }" />
          </div>
        </template>
      </div>
    </div>
    <p class="mt-1 truncate text-sm leading-4">{{ asset.name.replace(/\.[^.]+$/, '') }}</p>
    <p class="truncate text-[11px] leading-4 text-muted">
      {{ asset.kind === 'still' ? 'still' : formatShort(asset.length) }}{{ used ? ' · in reel' : '' }}
    </p>
  </div>
</template>
