<script setup lang="ts">
import Link from '@lucide/vue/dist/esm/icons/link.mjs'
import Magnet from '@lucide/vue/dist/esm/icons/magnet.mjs'
import Scissors from '@lucide/vue/dist/esm/icons/scissors.mjs'
import Eraser from '@lucide/vue/dist/esm/icons/eraser.mjs'
import FoldHorizontal from '@lucide/vue/dist/esm/icons/fold-horizontal.mjs'
import MoveHorizontal from '@lucide/vue/dist/esm/icons/move-horizontal.mjs'
import ZoomIn from '@lucide/vue/dist/esm/icons/zoom-in.mjs'
import ZoomOut from '@lucide/vue/dist/esm/icons/zoom-out.mjs'
import { useDeskActions } from '~/composables/useDeskActions'
import { KEYS } from '~/composables/useDeskKeys'
import { useDesk } from '~/stores/desk'

const desk = useDesk()
const actions = useDeskActions()
</script>

<template>
  <div
    class="flex h-9 shrink-0 items-center gap-1 border-b border-line bg-panel px-2"
    role="toolbar"
    aria-label="Timeline tools"
  >
    <button
      class="key"
      :title="`Split at the playhead (${KEYS.split}; all tracks: ${KEYS.splitAll})`"
      @click="actions.split()"
    >
      <Scissors :size="15" /> Split
    </button>
    <button
      class="key"
      :title="`Remove and leave the gap (${KEYS.remove})`"
      :disabled="desk.selection.size === 0"
      @click="actions.remove(false)"
    >
      <Eraser :size="15" /> Remove
    </button>
    <button
      class="key"
      :title="`Remove and let later clips move up: ripple delete (${KEYS.closeUp})`"
      :disabled="desk.selection.size === 0"
      @click="actions.remove(true)"
    >
      <FoldHorizontal :size="15" /> Close up
    </button>
    <span class="mx-1 h-5 w-px bg-line" />
    <button
      class="key"
      :class="desk.linked && 'bg-raised text-lamp'"
      :aria-pressed="desk.linked"
      title="Picture and sound of a shot go together"
      @click="desk.linked = !desk.linked"
    >
      <Link :size="15" /> Linked
    </button>
    <button
      class="key"
      :class="desk.snap && 'bg-raised text-lamp'"
      :aria-pressed="desk.snap"
      :title="`Drags stick to edges and the playhead (${KEYS.snap}; hold Ctrl to do without)`"
      @click="desk.snap = !desk.snap"
    >
      <Magnet :size="15" /> Snap
    </button>
    <span class="ml-auto" />
    <button
      class="key px-1.5"
      :title="`Farther away (${KEYS.zoomOut})`"
      aria-label="Zoom out"
      @click="desk.zoom(1 / 1.4)"
    >
      <ZoomOut :size="16" />
    </button>
    <button class="key px-1.5" :title="`Nearer (${KEYS.zoomIn})`" aria-label="Zoom in" @click="desk.zoom(1.4)">
      <ZoomIn :size="16" />
    </button>
    <button
      class="key px-1.5"
      :title="`The whole reel (${KEYS.fit})`"
      aria-label="Show the whole reel"
      @click="actions.fit()"
    >
      <MoveHorizontal :size="16" />
    </button>
  </div>
</template>
