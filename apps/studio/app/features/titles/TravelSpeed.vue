<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { TICKS_PER_SECOND, titleLayer, type TitleClip } from '@dusk/timeline'
import { usePlayer } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { useDesk } from '~/features/timeline/deskStore'

/** How fast words roll or crawl: their clip is as long as they take. */
const props = defineProps<{ clip: TitleClip }>()
const project = useProject()
const desk = useDesk()
const player = usePlayer()
/** Pixels that the words travel from out of sight to out of sight. */
const way = shallowRef<number | null>(null)

watch(
  () => [JSON.stringify([props.clip.title.text, props.clip.title.style]), project.reel?.format] as const,
  async ([, format]) => {
    if (!format) return
    const layer = { ...titleLayer(props.clip, props.clip.start, format), travel: 0.5 }
    const answer = await player.titleLayout({ layer }).catch(() => null)
    if (!answer) return void (way.value = null)
    const { width, height } = answer.measure
    way.value = layer.style.travel === 'crawl' ? format.width + width : format.height + height
  },
  { immediate: true },
)
const speed = computed(() => (way.value === null ? 0 : way.value / (props.clip.length / TICKS_PER_SECOND)))

function set(pixelsPerSecond: number): void {
  if (way.value === null) return
  project.perform({
    ...{ type: 'setLengths', clipIds: [props.clip.id] },
    length: Math.round((way.value / pixelsPerSecond) * TICKS_PER_SECOND),
    ...{ mode: desk.tool === 'ripple' ? 'ripple' : 'plain', scope: desk.scope, linked: desk.linked },
  })
}
</script>

<template>
  <section v-if="way !== null" class="border-t border-line py-3">
    <NumberField
      label="Speed"
      unit="px/s"
      :value="speed"
      :min="1"
      :max="20000"
      :digits="0"
      :initial="120"
      title="The clip becomes as long as the words take at this speed"
      @change="set"
    />
  </section>
</template>
