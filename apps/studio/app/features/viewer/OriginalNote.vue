<script setup lang="ts">
import { computed } from 'vue'
import { reelsInside, reading } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { useSource } from '~/features/player/sourceStore'
import { usePreviewProgress } from '~/features/project/previewProgressStore'

/** Says over the picture that it is drawn from originals, and how long that will be so. */
const project = useProject()
const source = useSource()
const previews = usePreviewProgress()

const unready = computed(() => {
  const { document, sources, reelId } = project
  if (!document?.reels[reelId]) return []
  const shown = new Set<string>()
  if (source.asset) shown.add(source.asset.id)
  else {
    const reels = reelsInside(reading(document), reelId)
    for (const clip of Object.values(document.clips))
      if (clip.kind === 'media' && clip.stream === null && reels.has(document.tracks[clip.trackId]!.reelId))
        shown.add(clip.assetId)
  }
  return [...shown].filter((id) => {
    const state = sources[id]
    return document.assets[id]?.kind === 'video' && state && !state.picture && !state.missing
  })
})
const words = computed(() => {
  const [first] = unready.value
  if (!first) return ''
  const name = project.document!.assets[first]!.name
  const many = unready.value.length
  if (many > 1) return `${many} sources are shown from their originals, which is slower; of ${name}: `
  return `${name} is shown from the original, which is slower; `
})
</script>

<template>
  <p
    v-if="words"
    :class="[
      'pointer-events-none absolute inset-x-3 bottom-2 mx-auto w-fit max-w-full truncate',
      'rounded-md bg-ground/85 px-2 py-0.5 text-[11px] text-muted',
    ]"
    role="status"
  >
    {{ words }}{{ previews.wordsOf(unready[0]!) }}
  </p>
</template>
