<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import PanelsTopLeft from '@lucide/vue/dist/esm/icons/panels-top-left.mjs'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { ref } from 'vue'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { useDrawers } from './useDrawers'
import type { Room } from './useRoom'

/** How much the desk shows, and how its parts are arranged. */
const props = defineProps<{ room: Room }>()
const desk = useDesk()
const notices = useNotices()
const drawers = useDrawers()
const name = ref('')

const DENSITIES = [
  { calm: true, label: 'Calm', hint: 'what a first film needs' },
  { calm: false, label: 'Full', hint: 'everything there is' },
]

function setCalm(calm: boolean): void {
  desk.calm = calm
  // What the calm desk has no button for would stay open for good.
  if (calm && drawers.find((entry) => entry.id === desk.drawer)?.full) desk.drawer = 'footage'
  if (calm) desk.tool = 'move'
}

function save(): void {
  const trimmed = name.value.trim()
  if (!trimmed) return
  props.room.save(trimmed)
  notices.say(`This arrangement is kept as “${trimmed}”.`)
  name.value = ''
}
</script>

<template>
  <Popover class="relative">
    <PopoverButton class="key px-1.5" title="How the desk is arranged" aria-label="How the desk is arranged">
      <PanelsTopLeft :size="17" />
    </PopoverButton>
    <PopoverPanel
      v-slot="{ close }"
      class="absolute right-0 z-30 mt-2 w-72 space-y-3 rounded-md border border-line bg-raised p-3"
    >
      <div class="grid grid-cols-2 gap-2" role="group" aria-label="How much is shown">
        <button
          v-for="entry in DENSITIES"
          :key="entry.label"
          class="rounded-md border px-2 py-1.5 text-left"
          :class="desk.calm === entry.calm ? 'border-dusk bg-panel' : 'border-line'"
          :aria-pressed="desk.calm === entry.calm"
          @click="setCalm(entry.calm)"
        >
          {{ entry.label }}<span class="block text-[11px] text-muted">{{ entry.hint }}</span>
        </button>
      </div>
      <div>
        <h2 class="font-semibold">Arrangements</h2>
        <ul v-if="room.arrangements.value.length > 0" class="mt-1">
          <li v-for="entry in room.arrangements.value" :key="entry.name" class="flex items-center">
            <button
              class="h-7 min-w-0 flex-1 truncate rounded-md px-1.5 text-left hover:bg-line"
              @click="(room.use(entry.name), close())"
            >
              {{ entry.name }}
            </button>
            <button
              class="grid size-7 place-items-center text-muted hover:text-ivory"
              :aria-label="`Forget the arrangement ${entry.name}`"
              @click="room.remove(entry.name)"
            >
              <X :size="14" />
            </button>
          </li>
        </ul>
        <form class="mt-1 flex gap-2" @submit.prevent="save">
          <input
            v-model="name"
            class="field min-w-0 flex-1"
            placeholder="Name of this one"
            aria-label="Name for this arrangement"
            maxlength="60"
            @keydown.stop
          />
          <button class="key key-line" :disabled="!name.trim()">Keep</button>
        </form>
        <button class="key mt-2 text-muted" @click="(room.reset(), close())">As it was at first</button>
      </div>
    </PopoverPanel>
  </Popover>
</template>
