<script setup lang="ts">
import Folder from '@lucide/vue/dist/esm/icons/folder.mjs'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import type { Folder as LibraryFolder } from '@dusk/timeline'
import { useFolderDrop } from './useFolderDrop'
import { useProject } from '~/features/project/projectStore'

/** The folders in the folder that is open: opened, renamed, removed, and filled by drops. */
defineProps<{ folders: readonly LibraryFolder[] }>()
const folderId = defineModel<string | null>({ required: true })
/** The folder whose name is typed. */
const renaming = defineModel<string | null>('renaming', { required: true })
const project = useProject()
const { over, take } = useFolderDrop()

function endRename(event: Event, id: string): void {
  const name = (event.target as HTMLInputElement).value.trim()
  renaming.value = null
  if (name && name !== project.document?.folders[id]?.name)
    project.perform({ type: 'setFolder', folderId: id, set: { name } })
}
</script>

<template>
  <ul v-if="folders.length > 0" class="mb-2 space-y-0.5">
    <li v-for="entry in folders" :key="entry.id">
      <input
        v-if="renaming === entry.id"
        class="field"
        :value="entry.name"
        maxlength="200"
        aria-label="Name of the folder"
        @vue:mounted="($event.el as HTMLInputElement).select()"
        @blur="endRename($event, entry.id)"
        @keydown.enter="endRename($event, entry.id)"
        @keydown.esc="renaming = null"
        @keydown.stop
      />
      <div
        v-else
        :ref="(element) => take(element, entry.id)"
        class="group flex h-7 items-center gap-2 rounded-md px-2 hover:bg-raised"
        :class="over === entry.id && 'bg-dusk/30'"
      >
        <button
          class="flex min-w-0 flex-1 items-center gap-2 text-left"
          @click="folderId = entry.id"
          @dblclick="renaming = entry.id"
        >
          <Folder :size="15" class="text-lamp" /><span class="truncate">{{ entry.name }}</span>
        </button>
        <button
          class="hidden text-sm text-muted group-focus-within:block group-hover:block hover:text-ivory"
          @click="renaming = entry.id"
        >
          rename
        </button>
        <button
          class="hidden text-muted group-focus-within:block group-hover:block hover:text-ivory"
          :aria-label="`Remove the folder ${entry.name}; what is in it stays`"
          title="Remove the folder; what is in it stays"
          @click="project.perform({ type: 'removeFolder', folderId: entry.id })"
        >
          <X :size="14" />
        </button>
      </div>
    </li>
  </ul>
</template>
