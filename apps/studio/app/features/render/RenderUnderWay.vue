<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { deliveryOf } from '@dusk/interchange'
import { framesPerSecond } from '@dusk/timeline'
import { api } from '~/features/ui/api'
import { formatWait } from '~/features/ui/sizes'
import ChunkStrip from './ChunkStrip.vue'
import type { ChunkState, RenderRow } from './renderRow'

/** How far a render is: its chunks, the picture it is at, its speed and the time that is left. */
const props = defineProps<{ render: RenderRow }>()
const chunks = ref<ChunkState[]>([])

const STAGES = {
  between: 'making frames between',
  picture: 'drawing and encoding',
  sound: 'mixing the sound',
  fitting: 'making it fit its size',
  joining: 'joining',
  checking: 'checking the file',
}
const part = computed(() => {
  const { progress } = props.render
  return progress ? progress.framesDone / Math.max(progress.frames, 1) : 0
})
const words = computed(() => {
  const { state, progress, message } = props.render
  if (message) return message
  if (state === 'waiting') return 'waits for its turn'
  if (state === 'paused') return 'paused: what was made is kept'
  if (!progress) return 'starting'
  if (progress.stage === 'between' || progress.stage === 'fitting')
    return `${STAGES[progress.stage]}, ${progress.framesDone} %`
  if (deliveryOf(props.render.settings.format).kind === 'sound') return STAGES[progress.stage]
  const said = [`${STAGES[progress.stage]}, ${progress.framesDone} of ${progress.frames} frames`]
  if (progress.stage === 'picture' && progress.pace) {
    const times = progress.pace / framesPerSecond(props.render.settings.rate)
    said.push(`${times.toFixed(times < 0.095 ? 2 : 1)} times as fast as it plays`)
  }
  if (progress.stage === 'picture' && progress.secondsLeft !== null)
    said.push(`${formatWait(progress.secondsLeft)} left`)
  return said.join(', ')
})
/** The chunk whose first picture is shown: the last one that is made. */
const shown = computed(() => [...chunks.value].reverse().find(({ state }) => state === 'ready') ?? null)

let asking = false
watch(
  () => [props.render.progress, props.render.state] as const,
  async ([, state]) => {
    if (asking || (state !== 'working' && state !== 'paused')) return
    asking = true
    // They are looked at as often as progress is told; one that can't be answered is asked for with the next.
    const found = await api<{ chunks: ChunkState[] }>(`/renders/${props.render.id}/chunks`).catch(() => null)
    asking = false
    if (found) chunks.value = found.chunks
  },
  { immediate: true, deep: true },
)
</script>

<template>
  <div class="mt-3 flex gap-3">
    <img
      v-if="shown"
      :key="shown.n"
      :src="`/api/renders/${render.id}/chunks/${shown.n}/picture`"
      alt="The last part that was made"
      class="h-14 max-w-28 shrink-0 rounded-sm bg-ground object-cover"
    />
    <div class="min-w-0 grow">
      <div
        :class="chunks.length < 2 && 'h-1.5 rounded-full bg-line'"
        role="progressbar"
        :aria-valuenow="Math.round(part * 100)"
        aria-valuemin="0"
        aria-valuemax="100"
        :aria-label="`Progress of ${render.name}`"
      >
        <ChunkStrip v-if="chunks.length > 1" :chunks="chunks" />
        <div v-else class="h-full rounded-full bg-ember" :style="{ width: `${part * 100}%` }" />
      </div>
      <p class="mt-1 text-sm text-muted">{{ words }}</p>
    </div>
  </div>
</template>
