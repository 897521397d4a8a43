<script setup lang="ts">
import { computed } from 'vue'
import type { Asset, Clip, Transition } from '@dusk/timeline'
import { useDesk } from '~/stores/desk'
import { useProject } from '~/stores/project'

/** What is selected, to be changed: clips, else sources of the library, else the reel. */
const project = useProject()
const desk = useDesk()

const clips = computed(() =>
  [...desk.selection].map((id) => project.document?.clips[id]).filter((clip): clip is Clip => !!clip),
)
const transitions = computed(() =>
  [...desk.transitions].map((id) => project.document?.transitions[id]).filter((entry): entry is Transition => !!entry),
)
const track = computed(() => (desk.trackId ? project.document?.tracks[desk.trackId] : undefined))
const assets = computed(() =>
  [...desk.assets].map((id) => project.document?.assets[id]).filter((asset): asset is Asset => !!asset),
)
</script>

<template>
  <aside class="h-full overflow-auto bg-panel p-3" aria-label="Details">
    <TransitionDetails v-if="transitions.length > 0" :transitions="transitions" />
    <ClipDetails v-else-if="clips.length > 0" :clips="clips" />
    <AssetDetails v-else-if="assets.length > 0" :assets="assets" />
    <TrackDetails v-else-if="track" :track="track" />
    <ReelDetails v-else />
  </aside>
</template>
