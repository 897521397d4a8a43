<script setup lang="ts">
import type { Row } from '~/features/timeline/layout'
import FadeHandles from './FadeHandles.vue'
import TransitionMarks from './TransitionMarks.vue'

/** What transitions draw over the rows of the timeline. */
defineProps<{ rows: readonly Row[]; width: number; height: number }>()
</script>

<template>
  <TransitionMarks :rows="rows" :width="width" :height="height" />
  <FadeHandles :rows="rows" :width="width" :height="height" />
</template>
