<script setup lang="ts">
import { shallowRef, watch } from 'vue'
import type { TitleClip } from '@dusk/timeline'
import { usePlayer } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { titleFaults, type TitleFault } from './titleFaults'

/** What of a title will not look as it was meant, with a way out where there is one. */
const props = defineProps<{ clip: TitleClip }>()
const emit = defineEmits<{ size: [pixels: number] }>()
const project = useProject()
const player = usePlayer()
const faults = shallowRef<TitleFault[]>([])

watch(
  () => [JSON.stringify(props.clip.title), project.reel?.format] as const,
  async ([title, format]) => {
    // Fonts that can't be read are said by the viewer.
    const found = format ? await titleFaults(player, props.clip, format).catch(() => []) : []
    if (JSON.stringify(props.clip.title) === title) faults.value = found
  },
  { immediate: true },
)
</script>

<template>
  <ul v-if="faults.length > 0" class="space-y-1 text-sm text-rose" aria-label="What is wrong with this title">
    <li v-for="fault in faults" :key="fault.words">
      {{ fault.words }}
      <button v-if="fault.size" class="key key-line mt-1 h-6 text-ivory" @click="emit('size', fault.size)">
        Make it fit, {{ fault.size }} px
      </button>
    </li>
  </ul>
</template>
