<script setup lang="ts">
import { useFeatures } from '~/features/registry/feature'

/** The viewer, and what stands beside it while it is asked for. */
const sides = useFeatures().flatMap((feature) => feature.viewerSide ?? [])
</script>

<template>
  <div class="flex h-full">
    <ViewerPanel />
    <component :is="side" v-for="(side, i) in sides" :key="i" />
  </div>
</template>
