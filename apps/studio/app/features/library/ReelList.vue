<script setup lang="ts">
import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import Film from '@lucide/vue/dist/esm/icons/film.mjs'
import { computed, type Directive } from 'vue'
import { formatShort, reelLength, reelsOf } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { useSourceActions } from '~/features/source/useSourceActions'

/** The other reels of the project: dragged to the timeline each plays in this one as a clip. */
const project = useProject()
const act = useSourceActions()
const reels = computed(() => {
  const document = project.document
  if (!document) return []
  return reelsOf(document)
    .filter((reel) => reel.id !== project.reelId)
    .map((reel) => ({ ...reel, length: reelLength(document, reel.id) }))
})

const stops = new WeakMap<HTMLElement, { reelId: string; stop: () => void }>()
const vCarryReel: Directive<HTMLElement, string> = {
  mounted(element, { value }) {
    const getInitialData = () => ({ kind: 'reel', reelId: stops.get(element)!.reelId })
    stops.set(element, { reelId: value, stop: draggable({ element, getInitialData }) })
  },
  updated: (element, { value }) => void (stops.get(element)!.reelId = value),
  unmounted: (element) => stops.get(element)?.stop(),
}

function key(event: KeyboardEvent, reelId: string): void {
  if (event.key === 'Enter') act.addReelToEnd(reelId)
  else if (event.key === ' ') project.reelId = reelId
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <ul v-if="reels.length > 0" class="mb-2 space-y-0.5" aria-label="Other reels">
    <li
      v-for="reel in reels"
      :key="reel.id"
      v-carry-reel="reel.id"
      class="flex h-7 cursor-grab items-center gap-2 rounded-md px-1.5 hover:bg-raised"
      role="button"
      tabindex="0"
      :aria-label="`${reel.name}, reel. Press Enter to add it at the end, Space to open it.`"
      title="Drag it to the timeline to have it play there; double-click opens it"
      @dblclick="project.reelId = reel.id"
      @keydown="key($event, reel.id)"
    >
      <Film :size="14" class="shrink-0 text-dusk" />
      <span class="min-w-0 flex-1 truncate">{{ reel.name }}</span>
      <span class="shrink-0 font-mono text-[11px] text-muted">{{ formatShort(reel.length) }}</span>
    </li>
  </ul>
</template>
