<script setup lang="ts">
import TriangleAlert from '@lucide/vue/dist/esm/icons/triangle-alert.mjs'
import { computed } from 'vue'
import { useProject } from '~/features/project/projectStore'
import { useDesk } from '~/features/timeline/deskStore'
import { missingIn, missingWords } from './missingSources'

/** Says over the picture that files of this reel are not there, and leads to where they are given again. */
const project = useProject()
const desk = useDesk()
const names = computed(() =>
  project.document?.reels[project.reelId] ? missingIn(project.document, project.reelId, project.sources) : [],
)

function show(): void {
  const wanted = new Set(names.value)
  desk.drawer = 'footage'
  desk.select([], null)
  desk.assets = new Set(
    Object.values(project.document?.assets ?? {})
      .filter((asset) => wanted.has(asset.name))
      .slice(0, 1)
      .map((asset) => asset.id),
  )
}
</script>

<template>
  <p
    v-if="names.length > 0"
    class="absolute inset-x-3 top-2 z-10 flex items-center gap-2 rounded-md border border-rose bg-panel px-3 py-1.5"
    role="status"
  >
    <TriangleAlert :size="15" class="shrink-0 text-rose" />
    <span class="min-w-0 flex-1">{{ missingWords(names) }}: nothing of it is seen or heard.</span>
    <button class="key key-line h-6 shrink-0" @click="show">Give it again</button>
  </p>
</template>
