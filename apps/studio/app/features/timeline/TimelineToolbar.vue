<script setup lang="ts">
import { computed } from 'vue'
import ChevronDown from '@lucide/vue/dist/esm/icons/chevron-down.mjs'
import Eraser from '@lucide/vue/dist/esm/icons/eraser.mjs'
import FoldHorizontal from '@lucide/vue/dist/esm/icons/fold-horizontal.mjs'
import GalleryHorizontal from '@lucide/vue/dist/esm/icons/gallery-horizontal.mjs'
import Link from '@lucide/vue/dist/esm/icons/link.mjs'
import Magnet from '@lucide/vue/dist/esm/icons/magnet.mjs'
import Flag from '@lucide/vue/dist/esm/icons/flag.mjs'
import MoveHorizontal from '@lucide/vue/dist/esm/icons/move-horizontal.mjs'
import SlidersHorizontal from '@lucide/vue/dist/esm/icons/sliders-horizontal.mjs'
import Scissors from '@lucide/vue/dist/esm/icons/scissors.mjs'
import ZoomIn from '@lucide/vue/dist/esm/icons/zoom-in.mjs'
import ZoomOut from '@lucide/vue/dist/esm/icons/zoom-out.mjs'
import type { Scope } from '@dusk/timeline'
import { useAction } from '~/features/registry/feature'
import { useEditActions } from './useEditActions'
import { useViewActions } from './useViewActions'
import { useDesk, type Tool } from './deskStore'
import { useShortcuts } from '~/features/shortcuts/shortcutsStore'

const desk = useDesk()
const actions = useEditActions()
const view = useViewActions()
const addMarker = useAction('mark.add')
const mixer = useAction('sound.mixer')
const shortcuts = useShortcuts()

const TOOLS: { value: Tool; label: string; hint: string }[] = [
  { value: 'move', label: 'Move and trim', hint: 'Drag a clip to move it, its edges to show more or less' },
  { value: 'ripple', label: 'Ripple', hint: 'An edge moves everything later along' },
  { value: 'roll', label: 'Roll', hint: 'A cut moves: one clip gets longer, the other shorter' },
  { value: 'slip', label: 'Slip', hint: 'Other footage under the same place' },
  { value: 'slide', label: 'Slide', hint: 'A clip moves while its neighbours give and take' },
  { value: 'stretch', label: 'Stretch', hint: 'An edge makes the clip play slower or faster' },
]
const SCOPES: { value: Scope; label: string }[] = [
  { value: 'track', label: 'This track alone' },
  { value: 'unlocked', label: 'Tracks that are not locked' },
  { value: 'all', label: 'All tracks, locked ones too' },
]
const tools = computed(() => TOOLS.map((entry) => ({ ...entry, shortcut: shortcuts.keyOf(`tool.${entry.value}`) })))
const tool = computed(() => TOOLS.find((entry) => entry.value === desk.tool)!)
const hint = (words: string, action: string) => {
  const key = shortcuts.keyOf(action)
  return key ? `${words} (${key})` : words
}
</script>

<template>
  <div class="@container border-b border-line bg-panel" role="toolbar" aria-label="Timeline tools">
    <div class="flex h-9 items-center gap-1 px-2">
      <ToolButton
        label="Split"
        wide
        :title="`${hint('Split at the playhead', 'cut.split')}; ${hint('all tracks', 'cut.splitAll')}`"
        @click="actions.split()"
      >
        <Scissors :size="15" />
      </ToolButton>
      <ToolButton
        label="Remove"
        wide
        :title="hint('Remove and leave the gap', 'cut.remove')"
        :disabled="desk.selection.size === 0"
        @click="actions.remove(false)"
      >
        <Eraser :size="15" />
      </ToolButton>
      <div class="flex items-center">
        <ToolButton
          label="Close up"
          wide
          class="pr-1"
          :title="hint('Remove and let later clips move up: ripple delete', 'cut.closeUp')"
          :disabled="desk.selection.size === 0 && !desk.range"
          @click="desk.selection.size === 0 ? actions.cutRange() : actions.remove(true)"
        >
          <FoldHorizontal :size="15" />
        </ToolButton>
        <ChoiceList
          v-if="!desk.calm"
          :value="desk.scope"
          :options="SCOPES"
          button="grid h-7 w-5 place-items-center rounded-md text-muted hover:bg-raised hover:text-ivory"
          list="left-0 w-52"
          label="Which tracks move when time closes or opens"
          title="Which tracks move when time closes or opens"
          @change="desk.scope = $event"
        >
          <ChevronDown :size="13" />
        </ChoiceList>
      </div>
      <span class="mx-1 h-5 w-px bg-line" />
      <ChoiceList
        v-if="!desk.calm || desk.tool !== 'move'"
        :value="desk.tool"
        :options="tools"
        :button="desk.tool === 'move' ? 'key' : 'key bg-raised text-lamp'"
        list="left-0 w-80"
        :title="`Drags: ${tool.hint}`"
        @change="desk.tool = $event"
      >
        <span class="hidden text-muted @4xl:inline">Drags</span> {{ tool.label.toLowerCase() }}
        <ChevronDown :size="13" />
      </ChoiceList>
      <ToolButton
        v-if="!desk.calm"
        label="Linked"
        wide
        :pressed="desk.linked"
        :title="hint('Picture and sound of a shot go together', 'view.linked')"
        @click="desk.linked = !desk.linked"
      >
        <Link :size="15" />
      </ToolButton>
      <ToolButton
        label="Snap"
        wide
        :pressed="desk.snap"
        :title="`${hint('Drags stick to edges, markers and the playhead', 'view.snap')}; hold Ctrl to do without`"
        @click="desk.snap = !desk.snap"
      >
        <Magnet :size="15" />
      </ToolButton>
      <ToolButton
        v-if="!desk.calm"
        label="Marker"
        wide
        :title="hint('Set a marker, also while it plays', 'mark.add')"
        @click="addMarker()"
      >
        <Flag :size="15" />
      </ToolButton>
      <span class="ml-auto" />
      <ToolButton
        v-if="!desk.calm"
        label="Mixer"
        wide
        :title="hint('Levels and meters beside the tracks', 'sound.mixer')"
        @click="mixer()"
      >
        <SlidersHorizontal :size="15" />
      </ToolButton>
      <ToolButton
        label="Storyboard"
        wide
        :pressed="desk.view === 'storyboard'"
        :title="hint('One card for each shot', 'view.storyboard')"
        @click="desk.view = desk.view === 'timeline' ? 'storyboard' : 'timeline'"
      >
        <GalleryHorizontal :size="15" />
      </ToolButton>
      <template v-if="desk.view === 'timeline'">
        <ToolButton :title="hint('Farther away', 'view.farther')" label="Zoom out" @click="view.zoom(1 / 1.4)">
          <ZoomOut :size="16" />
        </ToolButton>
        <button class="key px-1.5" :title="hint('Nearer', 'view.nearer')" aria-label="Zoom in" @click="view.zoom(1.4)">
          <ZoomIn :size="16" />
        </button>
        <ToolButton :title="hint('The whole reel', 'view.fit')" label="Show the whole reel" @click="view.fit()">
          <MoveHorizontal :size="16" />
        </ToolButton>
      </template>
    </div>
  </div>
</template>
