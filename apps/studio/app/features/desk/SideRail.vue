<script setup lang="ts">
import Keyboard from '@lucide/vue/dist/esm/icons/keyboard.mjs'
import { useDesk } from '~/features/timeline/deskStore'
import { useShortcuts } from '~/features/shortcuts/shortcutsStore'
import { useDrawers } from './useDrawers'

const desk = useDesk()
const shortcuts = useShortcuts()
const drawers = useDrawers()
</script>

<template>
  <nav class="flex w-17 shrink-0 flex-col border-r border-line bg-ground pt-1" aria-label="Drawers">
    <button
      v-for="entry in drawers"
      :key="entry.id"
      class="flex w-full flex-col items-center gap-1 border-l-2 py-2 text-[11px]"
      :class="[
        desk.drawer === entry.id
          ? 'border-ember bg-raised text-ivory'
          : 'border-transparent text-muted hover:text-ivory',
        entry.full && desk.drawer !== entry.id && 'calm:hidden',
      ]"
      :aria-expanded="desk.drawer === entry.id"
      @click="desk.toggleDrawer(entry.id)"
    >
      <component :is="entry.icon" :size="19" /> {{ entry.label }}
    </button>
    <button
      class="mt-auto flex w-full flex-col items-center gap-1 py-2 text-[11px] text-muted hover:text-ivory"
      title="Shortcuts (?)"
      @click="shortcuts.sheetOpen = true"
    >
      <Keyboard :size="19" /> Keys
    </button>
  </nav>
</template>
