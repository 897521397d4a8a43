<script setup lang="ts">
import { computed } from 'vue'
import { pictureEffect } from '@dusk/compositor'
import type { Effect } from '@dusk/timeline'
import EffectRows from '~/features/params/EffectRows.vue'
import { useProject } from '~/features/project/projectStore'
import { pictureStack } from './useEffectTarget'

/** The picture effects of a clip, a track or the reel. */
const props = defineProps<{
  ownerId: string
  /** The owner's time under the playhead, in ticks. */
  time: number
}>()
const emit = defineEmits<{ go: [time: number] }>()
const project = useProject()
const stack = computed(() => pictureStack(project.document?.effects ?? {}, props.ownerId))
const kindOf = (effect: Effect) => pictureEffect(effect.kind)
</script>

<template>
  <EffectRows
    title="Effects"
    :stack="stack"
    :kind-of="kindOf"
    drawer="effects"
    drawer-name="Effects"
    :time="time"
    @go="emit('go', $event)"
  />
</template>
