<script setup lang="ts">
import { computed } from 'vue'
import type { Asset, Clip, Transition } from '@dusk/timeline'
import { useFeatures } from '~/features/registry/feature'
import { useDesk } from '~/features/timeline/deskStore'
import { useProject } from '~/features/project/projectStore'

/** What is selected, to be changed: the first of the features' details that has something to show of it. */
const project = useProject()
const desk = useDesk()

const clips = computed(() =>
  [...desk.selection].map((id) => project.document?.clips[id]).filter((clip): clip is Clip => !!clip),
)
const transitions = computed(() =>
  [...desk.transitions].map((id) => project.document?.transitions[id]).filter((entry): entry is Transition => !!entry),
)
const track = computed(() => (desk.trackId && project.document?.tracks[desk.trackId]) || null)
const assets = computed(() =>
  [...desk.assets].map((id) => project.document?.assets[id]).filter((asset): asset is Asset => !!asset),
)
const entries = useFeatures()
  .flatMap((feature) => feature.details ?? [])
  .sort((a, b) => a.order - b.order)
const shown = computed(() => {
  const selected = { clips: clips.value, transitions: transitions.value, assets: assets.value, track: track.value }
  for (const { component, props } of entries) {
    const given = props(selected)
    if (given) return { component, given }
  }
  return null
})
</script>

<template>
  <aside class="h-full overflow-auto bg-panel p-3" aria-label="Details" tabindex="-1" data-focus-home>
    <component :is="shown.component" v-if="shown" v-bind="shown.given" />
  </aside>
</template>
