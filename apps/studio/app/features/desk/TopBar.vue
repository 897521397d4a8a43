<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { computed } from 'vue'
import ChevronLeft from '@lucide/vue/dist/esm/icons/chevron-left.mjs'
import History from '@lucide/vue/dist/esm/icons/rotate-ccw-clock.mjs'
import Redo from '@lucide/vue/dist/esm/icons/redo.mjs'
import Undo from '@lucide/vue/dist/esm/icons/undo.mjs'
import { useProject } from '~/features/project/projectStore'
import { lockedOut, wayIn } from '~/features/ui/api'
import { useShortcuts } from '~/features/shortcuts/shortcutsStore'
import type { Room } from './useRoom'

defineProps<{ room: Room }>()
const emit = defineEmits<{ render: [] }>()
const project = useProject()
const shortcuts = useShortcuts()

const timeOf = (at: number) =>
  new Date(at).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false })
const lastDone = computed(() => project.history.done.at(-1)?.label)
const lastUndone = computed(() => project.history.undone.at(-1)?.label)
</script>

<template>
  <header class="flex h-11 shrink-0 items-center gap-3 border-b border-line bg-panel px-2">
    <NuxtLink to="/" class="key px-1.5" aria-label="Back to the projects" title="Back to the projects"
      ><ChevronLeft :size="18"
    /></NuxtLink>
    <InlineName
      v-slot="{ begin }"
      class="w-72"
      :value="project.document?.name ?? ''"
      label="Name of the project"
      @rename="project.perform({ type: 'renameProject', name: $event })"
    >
      <h1 class="min-w-0">
        <button class="max-w-80 truncate font-display text-lg font-semibold" title="Click to rename" @click="begin">
          {{ project.document?.name }}
        </button>
      </h1>
    </InlineName>
    <span
      class="text-sm"
      :class="project.offline || project.full || project.blocked ? 'text-rose' : 'text-muted'"
      role="status"
      >{{ project.kept }}</span
    >
    <a
      v-if="lockedOut"
      class="key key-line"
      :href="wayIn()"
      target="_blank"
      title="In a window of its own; this one stays"
      >Let it in …</a
    >
    <Popover v-if="project.refused.length > 0" class="relative">
      <PopoverButton class="key px-2 text-rose"
        >{{ project.refused.length }} {{ project.refused.length === 1 ? 'edit was' : 'edits were' }} not
        kept</PopoverButton
      >
      <PopoverPanel
        v-slot="{ close }"
        class="absolute left-0 z-30 mt-2 w-96 rounded-md border border-line bg-raised p-3"
      >
        <ul class="max-h-64 space-y-2 overflow-auto">
          <li v-for="edit in project.refused" :key="edit.id">
            <span class="text-ivory">{{ edit.label }}</span>
            <span class="block text-sm text-muted">{{ timeOf(edit.at) }}: {{ edit.reason }}</span>
          </li>
        </ul>
        <button class="key key-line mt-3" @click="(project.sendRefusedAway(), close())">I have read this</button>
      </PopoverPanel>
    </Popover>
    <div class="ml-auto flex items-center gap-1">
      <button
        class="key px-1.5"
        :disabled="!lastDone"
        :title="`Undo${lastDone ? `: ${lastDone}` : ''} (${shortcuts.keyOf('edit.undo')})`"
        aria-label="Undo"
        @click="project.undo"
      >
        <Undo :size="17" />
      </button>
      <button
        class="key px-1.5"
        :disabled="!lastUndone"
        :title="`Redo${lastUndone ? `: ${lastUndone}` : ''} (${shortcuts.keyOf('edit.redo')})`"
        aria-label="Redo"
        @click="project.redo"
      >
        <Redo :size="17" />
      </button>
      <Popover class="relative">
        <PopoverButton class="key px-1.5" title="What was done" aria-label="History"
          ><History :size="17"
        /></PopoverButton>
        <PopoverPanel
          v-slot="{ close }"
          class="absolute right-0 z-30 mt-2 w-80 rounded-md border border-line bg-raised"
        >
          <HistoryList @done="close()" />
        </PopoverPanel>
      </Popover>
      <RoomMenu :room="room" />
      <NuxtLink to="/renders" class="key">Renders</NuxtLink>
      <button class="key key-ember ml-1 px-4" @click="emit('render')">Render</button>
    </div>
  </header>
</template>
