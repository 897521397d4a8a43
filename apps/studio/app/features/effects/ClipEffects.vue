<script setup lang="ts">
import { computed } from 'vue'
import type { Clip } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { effectStack } from './useEffectTarget'
import PictureStack from './PictureStack.vue'
import QuickFix from './QuickFix.vue'

/** The effects of a picture, in its details, and those of its source where it has any. */
const props = defineProps<{ clip: Clip; time: number; go: (clipTime: number) => void }>()
const project = useProject()
const sourceId = computed(() => {
  if (props.clip.kind !== 'media') return null
  const own = effectStack('picture', project.document?.effects ?? {}, props.clip.assetId)
  return own.length > 0 ? props.clip.assetId : null
})
</script>

<template>
  <QuickFix v-if="clip.kind === 'media'" :clip="clip" />
  <PictureStack owner="clip" :owner-id="clip.id" :time="time" @go="go" />
  <PictureStack
    v-if="sourceId"
    owner="asset"
    :owner-id="sourceId"
    title="Effects of its source, everywhere"
    :time="time"
  />
</template>
