<script setup lang="ts">
import { computed } from 'vue'
import type { Clip } from '@dusk/timeline'
import { animatedParams } from './keyframes'
import { useProject } from '~/features/project/projectStore'
import { useDesk } from '~/features/timeline/deskStore'

/** The keyframes of the selected picture, when something about it changes over time. */
defineProps<{ heads: number; width: number }>()
const project = useProject()
const desk = useDesk()

const keyed = computed(() => {
  const pictures = [...desk.selection]
    .map((id) => project.document?.clips[id])
    .filter((clip): clip is Clip => clip?.stream === null)
  return pictures.length === 1 && animatedParams(pictures[0]!).length > 0 ? pictures[0]! : null
})
</script>

<template>
  <KeyframePanel v-if="keyed" :key="keyed.id" :clip="keyed" :heads="heads" :width="width" />
</template>
