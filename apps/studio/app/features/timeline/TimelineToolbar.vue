<script setup lang="ts">
import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/vue'
import { computed } from 'vue'
import ChevronDown from '@lucide/vue/dist/esm/icons/chevron-down.mjs'
import Eraser from '@lucide/vue/dist/esm/icons/eraser.mjs'
import FoldHorizontal from '@lucide/vue/dist/esm/icons/fold-horizontal.mjs'
import GalleryHorizontal from '@lucide/vue/dist/esm/icons/gallery-horizontal.mjs'
import Link from '@lucide/vue/dist/esm/icons/link.mjs'
import Magnet from '@lucide/vue/dist/esm/icons/magnet.mjs'
import Flag from '@lucide/vue/dist/esm/icons/flag.mjs'
import MoveHorizontal from '@lucide/vue/dist/esm/icons/move-horizontal.mjs'
import Scissors from '@lucide/vue/dist/esm/icons/scissors.mjs'
import ZoomIn from '@lucide/vue/dist/esm/icons/zoom-in.mjs'
import ZoomOut from '@lucide/vue/dist/esm/icons/zoom-out.mjs'
import type { Scope } from '@dusk/timeline'
import { useAction } from '~/features/registry/feature'
import { useEditActions } from './useEditActions'
import { useDesk, type Tool } from './deskStore'
import { useShortcuts } from '~/features/shortcuts/shortcutsStore'

const desk = useDesk()
const actions = useEditActions()
const addMarker = useAction('mark.add')
const shortcuts = useShortcuts()

const TOOLS: { value: Tool; label: string; hint: string }[] = [
  { value: 'move', label: 'Move and trim', hint: 'Drag a clip to move it, its edges to show more or less' },
  { value: 'ripple', label: 'Ripple', hint: 'An edge moves everything later along' },
  { value: 'roll', label: 'Roll', hint: 'A cut moves: one clip gets longer, the other shorter' },
  { value: 'slip', label: 'Slip', hint: 'Other footage under the same place' },
  { value: 'slide', label: 'Slide', hint: 'A clip moves while its neighbours give and take' },
]
const SCOPES: { value: Scope; label: string }[] = [
  { value: 'track', label: 'This track alone' },
  { value: 'unlocked', label: 'Tracks that are not locked' },
  { value: 'all', label: 'All tracks, locked ones too' },
]
const tool = computed(() => TOOLS.find((entry) => entry.value === desk.tool)!)
const hint = (words: string, action: string) => {
  const key = shortcuts.keyOf(action)
  return key ? `${words} (${key})` : words
}
</script>

<template>
  <div class="@container border-b border-line bg-panel" role="toolbar" aria-label="Timeline tools">
    <div class="flex h-9 items-center gap-1 px-2">
      <button
        aria-label="Split"
        class="key"
        :title="`${hint('Split at the playhead', 'cut.split')}; ${hint('all tracks', 'cut.splitAll')}`"
        @click="actions.split()"
      >
        <Scissors :size="15" /> <span class="hidden @2xl:inline">Split</span>
      </button>
      <button
        aria-label="Remove"
        class="key"
        :title="hint('Remove and leave the gap', 'cut.remove')"
        :disabled="desk.selection.size === 0"
        @click="actions.remove(false)"
      >
        <Eraser :size="15" /> <span class="hidden @2xl:inline">Remove</span>
      </button>
      <div class="flex items-center">
        <button
          aria-label="Close up"
          class="key pr-1"
          :title="hint('Remove and let later clips move up: ripple delete', 'cut.closeUp')"
          :disabled="desk.selection.size === 0 && !desk.range"
          @click="desk.selection.size === 0 ? actions.cutRange() : actions.remove(true)"
        >
          <FoldHorizontal :size="15" /> <span class="hidden @2xl:inline">Close up</span>
        </button>
        <Listbox v-model="desk.scope" as="div" class="relative">
          <ListboxButton
            class="grid h-7 w-5 place-items-center rounded-md text-muted hover:bg-raised hover:text-ivory"
            aria-label="Which tracks move when time closes or opens"
            title="Which tracks move when time closes or opens"
            ><ChevronDown :size="13"
          /></ListboxButton>
          <ListboxOptions class="absolute top-full left-0 z-30 w-52 rounded-md border border-line bg-raised py-1">
            <ListboxOption
              v-for="entry in SCOPES"
              :key="entry.value"
              v-slot="{ active, selected }"
              :value="entry.value"
              as="template"
            >
              <li class="cursor-pointer px-3 py-1" :class="[active && 'bg-line', selected && 'text-lamp']">
                {{ entry.label }}
              </li>
            </ListboxOption>
          </ListboxOptions>
        </Listbox>
      </div>
      <span class="mx-1 h-5 w-px bg-line" />
      <Listbox v-model="desk.tool" as="div" class="relative">
        <ListboxButton
          class="key"
          :class="desk.tool !== 'move' && 'bg-raised text-lamp'"
          :title="`Drags: ${tool.hint}`"
        >
          <span class="hidden text-muted @3xl:inline">Drags</span> {{ tool.label.toLowerCase() }}
          <ChevronDown :size="13" />
        </ListboxButton>
        <ListboxOptions class="absolute top-full left-0 z-30 w-80 rounded-md border border-line bg-raised py-1">
          <ListboxOption
            v-for="entry in TOOLS"
            :key="entry.value"
            v-slot="{ active, selected }"
            :value="entry.value"
            as="template"
          >
            <li class="cursor-pointer px-3 py-1" :class="active && 'bg-line'">
              <span class="flex justify-between" :class="selected && 'text-lamp'"
                >{{ entry.label }}
                <span class="font-mono text-[10px] text-muted">{{ shortcuts.keyOf(`tool.${entry.value}`) }}</span></span
              >
              <span class="text-sm text-muted">{{ entry.hint }}</span>
            </li>
          </ListboxOption>
        </ListboxOptions>
      </Listbox>
      <button
        aria-label="Linked"
        class="key"
        :class="desk.linked && 'bg-raised text-lamp'"
        :aria-pressed="desk.linked"
        :title="hint('Picture and sound of a shot go together', 'view.linked')"
        @click="desk.linked = !desk.linked"
      >
        <Link :size="15" /> <span class="hidden @2xl:inline">Linked</span>
      </button>
      <button
        aria-label="Snap"
        class="key"
        :class="desk.snap && 'bg-raised text-lamp'"
        :aria-pressed="desk.snap"
        :title="`${hint('Drags stick to edges, markers and the playhead', 'view.snap')}; hold Ctrl to do without`"
        @click="desk.snap = !desk.snap"
      >
        <Magnet :size="15" /> <span class="hidden @2xl:inline">Snap</span>
      </button>
      <button
        aria-label="Marker"
        class="key"
        :title="hint('Set a marker, also while it plays', 'mark.add')"
        @click="addMarker()"
      >
        <Flag :size="15" /> <span class="hidden @2xl:inline">Marker</span>
      </button>
      <span class="ml-auto" />
      <button
        aria-label="Storyboard"
        class="key"
        :class="desk.view === 'storyboard' && 'bg-raised text-lamp'"
        :aria-pressed="desk.view === 'storyboard'"
        :title="hint('One card for each shot', 'view.storyboard')"
        @click="desk.view = desk.view === 'timeline' ? 'storyboard' : 'timeline'"
      >
        <GalleryHorizontal :size="15" /> <span class="hidden @2xl:inline">Storyboard</span>
      </button>
      <template v-if="desk.view === 'timeline'">
        <button
          class="key px-1.5"
          :title="hint('Farther away', 'view.farther')"
          aria-label="Zoom out"
          @click="desk.zoom(1 / 1.4)"
        >
          <ZoomOut :size="16" />
        </button>
        <button class="key px-1.5" :title="hint('Nearer', 'view.nearer')" aria-label="Zoom in" @click="desk.zoom(1.4)">
          <ZoomIn :size="16" />
        </button>
        <button
          class="key px-1.5"
          :title="hint('The whole reel', 'view.fit')"
          aria-label="Show the whole reel"
          @click="actions.fit()"
        >
          <MoveHorizontal :size="16" />
        </button>
      </template>
    </div>
  </div>
</template>
