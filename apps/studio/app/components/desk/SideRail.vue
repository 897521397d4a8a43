<script setup lang="ts">
import Clapperboard from '@lucide/vue/dist/esm/icons/clapperboard.mjs'
import Blend from '@lucide/vue/dist/esm/icons/blend.mjs'
import Flag from '@lucide/vue/dist/esm/icons/flag.mjs'
import Library from '@lucide/vue/dist/esm/icons/library.mjs'
import Type from '@lucide/vue/dist/esm/icons/type.mjs'
import Keyboard from '@lucide/vue/dist/esm/icons/keyboard.mjs'
import { useDesk } from '~/stores/desk'

const desk = useDesk()
const DRAWERS = [
  { id: 'footage', label: 'Footage', icon: Clapperboard },
  { id: 'shelf', label: 'Shelf', icon: Library },
  { id: 'transitions', label: 'Transitions', icon: Blend },
  { id: 'titles', label: 'Titles', icon: Type },
  { id: 'markers', label: 'Markers', icon: Flag },
] as const
</script>

<template>
  <nav class="flex w-17 shrink-0 flex-col border-r border-line bg-ground pt-1" aria-label="Drawers">
    <button
      v-for="entry in DRAWERS"
      :key="entry.id"
      class="flex w-full flex-col items-center gap-1 border-l-2 py-2 text-[11px]"
      :class="
        desk.drawer === entry.id
          ? 'border-ember bg-raised text-ivory'
          : 'border-transparent text-muted hover:text-ivory'
      "
      :aria-expanded="desk.drawer === entry.id"
      @click="desk.drawer = desk.drawer === entry.id ? null : entry.id"
    >
      <component :is="entry.icon" :size="19" /> {{ entry.label }}
    </button>
    <button
      class="mt-auto flex w-full flex-col items-center gap-1 py-2 text-[11px] text-muted hover:text-ivory"
      title="Shortcuts (?)"
      @click="desk.shortcutsOpen = true"
    >
      <Keyboard :size="19" /> Keys
    </button>
  </nav>
</template>
