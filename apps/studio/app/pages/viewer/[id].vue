<script setup lang="ts">
import { useElementSize, useFullscreen } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { reelLength } from '@dusk/timeline'
import { useLive } from '~/features/project/useLive'
import { useViewerFollow } from '~/features/viewer/useViewerLink'
import { workerSources } from '~/features/player/workerSources'
import { Player } from '~/features/player/player'
import { useProject } from '~/features/project/projectStore'

/** The picture alone, for a second screen: it shows what the desk's playhead is on, and every edit. */
const id = String(useRoute().params.id)
const project = useProject()
const player = new Player()
const canvas = ref<HTMLCanvasElement | null>(null)
const room = ref<HTMLElement | null>(null)
const whole = useFullscreen(room)
const { width, height } = useElementSize(room)
const following = ref(false)

void project.open(id)
useLive(
  id,
  (event) => (event.kind === 'edit' ? void project.heardOfEdit(event.seq) : project.refreshSources()),
  () => void project.reconnect(),
)
onMounted(() => player.attach(canvas.value!))
const format = computed(() => project.reel?.format ?? { width: 1920, height: 1080, rate: { num: 30, den: 1 } })
watch(format, (shape) => player.setShape(shape), { immediate: true })
watch(
  () => [project.document, project.reelId] as const,
  ([document, reelId]) => document?.reels[reelId] && player.setDocument(document, reelId, reelLength(document, reelId)),
)
watch(
  () => [project.sources, project.document] as const,
  ([states, document]) => document && player.setSources(workerSources(states, document)),
)
useViewerFollow(id, ({ tick, reelId, running }) => {
  following.value = true
  if (project.document?.reels[reelId]) project.reelId = reelId
  player.trail(tick, running)
})
const box = computed(() => {
  const scale = Math.min(width.value / format.value.width, height.value / format.value.height)
  return {
    width: `${Math.round(format.value.width * scale)}px`,
    height: `${Math.round(format.value.height * scale)}px`,
  }
})
onBeforeUnmount(() => {
  player.dispose()
  project.close()
})
</script>

<template>
  <div
    ref="room"
    class="flex h-full items-center justify-center bg-ground"
    :data-shown-tick="player.shown.value.tick"
    @dblclick="whole.toggle()"
  >
    <canvas ref="canvas" :style="box" aria-label="Picture of the reel" />
    <p v-if="project.missing" class="absolute text-rose">{{ project.missing }}</p>
    <p v-else-if="!following" class="absolute bottom-4 text-muted">
      Waiting for the desk. Open the project in another window. A double click fills the screen.
    </p>
  </div>
</template>
