<script setup lang="ts">
import Pencil from '@lucide/vue/dist/esm/icons/pencil.mjs'
import { computed, ref } from 'vue'
import { clipName, formatSeconds, formatTimecode, reading } from '@dusk/timeline'
import MarkerCard from './MarkerCard.vue'
import { useMarkerActions } from './useMarkerActions'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { useShortcuts } from '~/features/shortcuts/shortcutsStore'

/** Markers of the reel and of its clips in the order they come; a click goes there. */
const project = useProject()
const act = useMarkerActions()
const playhead = usePlayhead()
const shortcuts = useShortcuts()
const rate = computed(() => project.reel?.format.rate ?? { num: 30, den: 1 })
/** The marker that is being changed. */
const editing = ref<string | null>(null)
const remove = (id: string) => project.perform({ type: 'removeMarkers', markerIds: [id] })
const rows = computed(() => act.markerPlaces().sort((a, b) => a.at - b.at))
</script>

<template>
  <section class="flex h-full flex-col bg-panel" aria-label="Markers">
    <header class="flex items-center justify-between px-3 pt-3 pb-2">
      <h2 class="font-display text-lg font-semibold">Markers</h2>
      <button class="key key-line" @click="act.addMarker()">Set one here</button>
    </header>
    <p v-if="rows.length === 0" class="mx-4 mt-8 text-center text-muted">
      Press {{ shortcuts.keyOf('mark.add') }} to set a marker, also while it plays. With one clip selected it goes on
      the clip and stays on its picture.
    </p>
    <ul class="min-h-0 flex-1 overflow-auto px-2 pb-3">
      <li v-for="{ marker, at, clip } in rows" :key="marker.id" class="group relative">
        <MarkerCard v-if="editing === marker.id" class="my-1 w-full" :marker="marker" @close="editing = null" />
        <button
          v-else
          class="flex w-full items-start gap-2 rounded-md py-1 pr-9 pl-2 text-left hover:bg-raised"
          @click="playhead.goTo(at)"
          @keydown.delete.stop.prevent="remove(marker.id)"
        >
          <span class="mt-1 size-2.5 shrink-0 rounded-full" :style="{ background: `var(--color-${marker.colour})` }" />
          <span class="min-w-0 flex-1">
            <span class="flex justify-between gap-2">
              <span class="truncate">{{ marker.name || 'Marker' }}</span>
              <span class="font-mono text-[10px] leading-5 text-muted">{{ formatTimecode(at, rate) }}</span>
            </span>
            <span v-if="marker.length > 0" class="block text-[11px] text-muted"
              >{{ formatSeconds(marker.length) }} long</span
            >
            <span v-if="clip" class="block truncate text-[11px] text-muted"
              >on {{ clipName(reading(project.document!), clip) }}</span
            >
            <span v-if="marker.note" class="block text-[11px] text-muted">{{ marker.note }}</span>
          </span>
        </button>
        <button
          v-if="editing !== marker.id"
          :class="[
            'absolute top-1 right-1 grid size-6 place-items-center',
            'rounded-sm text-muted hover:bg-line hover:text-ivory',
          ]"
          :aria-label="`Change ${marker.name || 'this marker'}`"
          title="Name, note, length, colour; or remove it"
          @click="editing = marker.id"
        >
          <Pencil :size="13" />
        </button>
      </li>
    </ul>
  </section>
</template>
