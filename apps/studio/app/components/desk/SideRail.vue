<script setup lang="ts">
import Clapperboard from '@lucide/vue/dist/esm/icons/clapperboard.mjs'
import { useDesk } from '~/stores/desk'

const desk = useDesk()
</script>

<template>
  <nav class="w-16 shrink-0 border-r border-line bg-ground pt-1" aria-label="Drawers">
    <button
      class="flex w-full flex-col items-center gap-1 border-l-2 py-2 text-[11px]"
      :class="
        desk.drawer === 'footage'
          ? 'border-ember bg-raised text-ivory'
          : 'border-transparent text-muted hover:text-ivory'
      "
      :aria-expanded="desk.drawer === 'footage'"
      @click="desk.drawer = desk.drawer === 'footage' ? null : 'footage'"
    >
      <Clapperboard :size="19" /> Footage
    </button>
  </nav>
</template>
