<script setup lang="ts">
import { computed } from 'vue'
import { useDesk } from '~/features/timeline/deskStore'
import { useDrawers } from './useDrawers'

/** What the rail opens beside itself. */
const desk = useDesk()
const drawers = useDrawers()
const open = computed(() => drawers.find((entry) => entry.id === desk.drawer))
</script>

<template>
  <component :is="open.component" v-if="open" />
</template>
