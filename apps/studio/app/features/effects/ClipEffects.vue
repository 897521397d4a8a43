<script setup lang="ts">
import type { Clip } from '@dusk/timeline'
import PictureStack from './PictureStack.vue'

/** The effects of a picture, in its details. */
defineProps<{ clip: Clip; time: number; go: (clipTime: number) => void }>()
</script>

<template>
  <PictureStack :owner-id="clip.id" :time="time" @go="go" />
</template>
