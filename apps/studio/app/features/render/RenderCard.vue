<script setup lang="ts">
import { computed, ref } from 'vue'
import Download from '@lucide/vue/dist/esm/icons/download.mjs'
import Play from '@lucide/vue/dist/esm/icons/play.mjs'
import Trash from '@lucide/vue/dist/esm/icons/trash.mjs'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { deliveryOf, type DeliveryId } from '@dusk/interchange'
import { formatRate } from '@dusk/timeline'
import { formatBytes, formatWait } from '~/features/ui/sizes'
import type { RenderRow } from '~~/server/utils/renders'

const props = defineProps<{
  render: Omit<RenderRow, 'createdAt' | 'endedAt'> & { createdAt: string; endedAt: string | null }
}>()
const emit = defineEmits<{ cancel: []; remove: [] }>()
const playing = ref(false)

/** Films that browsers may play, as they are asked for them (RFC 6381). */
const PLAYED: Partial<Record<DeliveryId, string>> = {
  'mp4-h264': 'video/mp4; codecs="avc1.640028, mp4a.40.2"',
  'mp4-h265': 'video/mp4; codecs="hvc1.1.6.L120.90, mp4a.40.2"',
  'mp4-av1': 'video/mp4; codecs="av01.0.08M.08, mp4a.40.2"',
  'webm-vp9': 'video/webm; codecs="vp9, opus"',
  'webm-av1': 'video/webm; codecs="av01.0.08M.08, opus"',
}
/** What the browser shows of the file, if anything. */
const shows = computed(() => {
  const { kind } = delivery.value
  if (kind === 'loop' || kind === 'still') return 'picture'
  if (kind === 'pictures') return null
  if (kind === 'sound') return 'sound'
  return document.createElement('video').canPlayType(PLAYED[props.render.settings.format ?? 'mp4-h264'] ?? '')
    ? 'film'
    : null
})

const STAGES = {
  between: 'making frames between',
  picture: 'drawing and encoding',
  sound: 'mixing the sound',
  joining: 'joining',
  checking: 'checking the file',
}
const delivery = computed(() => deliveryOf(props.render.settings.format))
const part = computed(() => {
  const { progress, state } = props.render
  if (state === 'ready') return 1
  return progress ? progress.framesDone / Math.max(progress.frames, 1) : 0
})
const words = computed(() => {
  const { state, progress, message } = props.render
  if (state === 'waiting') return 'waits for its turn'
  if (state === 'cancelled') return 'cancelled'
  if (state === 'failed') return message ?? 'failed'
  if (!progress) return 'starting'
  const left =
    progress.secondsLeft !== null && progress.stage === 'picture' ? `, ${formatWait(progress.secondsLeft)} left` : ''
  if (progress.stage === 'between') return `${STAGES.between}, ${progress.framesDone} %`
  return `${STAGES[progress.stage]}, ${progress.framesDone} of ${progress.frames} frames${left}`
})
</script>

<template>
  <article class="rounded-md border border-line bg-panel p-4" :aria-label="`Render ${render.name}`">
    <div class="flex flex-wrap items-center gap-3">
      <img
        v-if="render.pictured"
        :src="`/api/renders/${render.id}/poster`"
        alt=""
        class="h-14 max-w-28 rounded-sm object-cover"
      />
      <div class="min-w-0 flex-1">
        <h2 class="truncate font-display text-lg font-semibold">{{ render.name }}</h2>
        <p class="text-sm text-muted">
          {{ render.settings.width }} × {{ render.settings.height }}, {{ formatRate(render.settings.rate) }} frames/s,
          {{ delivery.label }}, {{ render.settings.quality }} · from
          <NuxtLink :to="`/projects/${render.projectId}`" class="underline decoration-line">{{
            render.projectName
          }}</NuxtLink>
        </p>
      </div>
      <template v-if="render.state === 'ready'">
        <button v-if="shows" class="key key-line" @click="playing = !playing">
          <Play :size="15" /> {{ playing ? 'Close' : 'Play' }}
        </button>
        <a class="key key-ember px-3" :href="`/api/renders/${render.id}/file?download`" download
          ><Download :size="15" /> Download</a
        >
      </template>
      <button
        v-if="render.state === 'waiting' || render.state === 'working'"
        class="key key-line"
        @click="emit('cancel')"
      >
        <X :size="15" /> Cancel
      </button>
      <button
        v-else
        class="key px-1.5 text-muted"
        :aria-label="`Remove the render ${render.name}`"
        title="Remove it and its file"
        @click="emit('remove')"
      >
        <Trash :size="16" />
      </button>
    </div>
    <template v-if="render.state !== 'ready'">
      <div
        v-if="render.state === 'working' || render.state === 'waiting'"
        class="mt-3 h-1.5 rounded-full bg-line"
        role="progressbar"
        :aria-valuenow="Math.round(part * 100)"
        aria-valuemin="0"
        aria-valuemax="100"
      >
        <div class="h-full rounded-full bg-ember" :style="{ width: `${part * 100}%` }" />
      </div>
      <p class="mt-2 text-sm" :class="render.state === 'failed' ? 'text-rose' : 'text-muted'">{{ words }}</p>
    </template>
    <p v-else-if="render.report" class="mt-2 text-sm text-muted">
      <span class="text-moss">Checked:</span> {{ render.report.frames }} frames,
      {{ render.report.seconds.toFixed(2) }} s, {{ formatBytes(render.report.bytes)
      }}{{ render.report.loudness !== null ? `, ${render.report.loudness.toFixed(1)} LUFS` : ''
      }}{{ (render.report.peak ?? 0) > 1 ? ', sound clipped' : '' }} · took {{ render.report.took.toFixed(1) }} s{{
        render.report.reused > 0 ? `, ${render.report.reused} of ${render.report.chunks} parts were there already` : ''
      }}
    </p>
    <img
      v-if="playing && shows === 'picture'"
      class="mt-3 max-h-[60vh] max-w-full rounded-md bg-ground"
      :src="`/api/renders/${render.id}/file`"
      alt=""
    />
    <audio
      v-else-if="playing && shows === 'sound'"
      class="mt-3 w-full"
      :src="`/api/renders/${render.id}/file`"
      controls
      autoplay
    />
    <video
      v-else-if="playing"
      class="mt-3 max-h-[60vh] w-full rounded-md bg-ground"
      :src="`/api/renders/${render.id}/file`"
      controls
      autoplay
    />
  </article>
</template>
