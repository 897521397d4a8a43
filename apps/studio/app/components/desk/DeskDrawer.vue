<script setup lang="ts">
import { useDesk } from '~/stores/desk'

/** What the rail opens beside itself. */
const desk = useDesk()
</script>

<template>
  <FootageDrawer v-if="desk.drawer === 'footage'" />
  <ShelfDrawer v-else-if="desk.drawer === 'shelf'" />
  <TransitionsDrawer v-else-if="desk.drawer === 'transitions'" />
  <TitlesDrawer v-else-if="desk.drawer === 'titles'" />
  <MarkersDrawer v-else-if="desk.drawer === 'markers'" />
</template>
