<script setup lang="ts">
import { computed } from 'vue'
import ChevronRight from '@lucide/vue/dist/esm/icons/chevron-right.mjs'
import { useFolderDrop } from './useFolderDrop'
import { pathOf } from './library'
import { useProject } from '~/features/project/projectStore'

/** The way from the library's top to the folder that is open; sources are dropped on it to take them out. */
const folderId = defineModel<string | null>({ required: true })
const project = useProject()
const { over, take } = useFolderDrop()
const path = computed(() => pathOf(project.document?.folders ?? {}, folderId.value))
</script>

<template>
  <nav v-if="folderId" class="flex items-center gap-0.5 text-sm text-muted" aria-label="Folder">
    <button
      :ref="(element) => take(element, null)"
      class="rounded-sm px-1 hover:text-ivory"
      :class="over === null && 'bg-dusk/30'"
      @click="folderId = null"
    >
      Footage
    </button>
    <template v-for="entry in path" :key="entry.id">
      <ChevronRight :size="12" />
      <button
        class="truncate rounded-sm px-1 hover:text-ivory"
        :class="entry.id === folderId && 'text-ivory'"
        @click="folderId = entry.id"
      >
        {{ entry.name }}
      </button>
    </template>
  </nav>
</template>
