<script setup lang="ts">
import { Pane, Splitpanes } from 'splitpanes'
import 'splitpanes/dist/splitpanes.css'
import { computed, onBeforeUnmount, provide, ref, watch } from 'vue'
import { reelLength } from '@dusk/timeline'
import { PLAYER } from '~/composables/useDeskActions'
import { Player } from '~/lib/player'
import type { Sources } from '~/lib/messages'
import { useDesk } from '~/stores/desk'
import { useProject } from '~/stores/project'

const route = useRoute()
const project = useProject()
const desk = useDesk()
const player = new Player()
provide(PLAYER, player)
const rendering = ref(false)

const id = String(route.params.id)
void project.open(id)
useLive(
  id,
  (event) => {
    if (event.kind === 'edit') void project.heardOfEdit(event.seq)
    else if (event.kind === 'asset' || event.kind === 'media') project.refreshSources()
  },
  () => void project.reconnect(),
)

watch(
  () => [project.document, project.reelId] as const,
  ([document, reelId]) => {
    if (document?.reels[reelId]) player.setDocument(document, reelId, reelLength(document, reelId))
  },
)
watch(
  () => [project.sources, project.document] as const,
  ([states, document]) => {
    const sources: Sources = {}
    for (const [assetId, state] of Object.entries(states)) {
      const kind = document?.assets[assetId]?.kind
      if (kind)
        sources[assetId] = {
          kind,
          ready: state.state === 'ready',
          proxy: state.proxy ? { ...state.proxy } : null,
          plain: state.plain,
          sounds: state.sounds.map((sound) => ({ ...sound })),
        }
    }
    player.setSources(sources)
  },
)
/** Tall reels turn the desk: the viewer takes a column of its own. */
const tall = computed(() => (project.reel ? project.reel.format.height > project.reel.format.width * 1.1 : false))

onBeforeUnmount(() => {
  player.dispose()
  project.close()
  desk.select([], null)
})

function started(): void {
  rendering.value = false
  void navigateTo('/renders')
}
</script>

<template>
  <div class="flex h-full flex-col">
    <div v-if="project.missing" class="m-auto text-center">
      <p class="text-lg">{{ project.missing }}</p>
      <NuxtLink to="/" class="mt-4 inline-block text-ember">Back to the projects</NuxtLink>
    </div>
    <template v-else-if="project.document && project.reel">
      <TopBar @render="rendering = true" />
      <div class="flex min-h-0 flex-1">
        <SideRail />
        <Splitpanes v-if="!tall" horizontal class="min-w-0">
          <Pane :size="54" :min-size="25">
            <Splitpanes>
              <Pane v-if="desk.drawer" :size="22" :min-size="14"><FootageDrawer /></Pane>
              <Pane :size="56" :min-size="25"><ViewerPanel /></Pane>
              <Pane :size="22" :min-size="14"><DetailsPanel /></Pane>
            </Splitpanes>
          </Pane>
          <Pane :size="46" :min-size="20"><TimelinePanel /></Pane>
        </Splitpanes>
        <Splitpanes v-else class="min-w-0">
          <Pane :size="54" :min-size="30">
            <Splitpanes horizontal>
              <Pane v-if="desk.drawer" :size="34" :min-size="15"><FootageDrawer /></Pane>
              <Pane :size="66" :min-size="30"><TimelinePanel /></Pane>
            </Splitpanes>
          </Pane>
          <Pane :size="19" :min-size="12"><DetailsPanel /></Pane>
          <Pane :size="27" :min-size="18"><ViewerPanel /></Pane>
        </Splitpanes>
      </div>
      <RenderDialog :open="rendering" @close="rendering = false" @started="started" />
    </template>
    <p v-else class="m-auto text-muted">Opening…</p>
  </div>
</template>
