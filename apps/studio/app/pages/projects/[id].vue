<script setup lang="ts">
import { Pane, Splitpanes } from 'splitpanes'
import 'splitpanes/dist/splitpanes.css'
import { useElementSize } from '@vueuse/core'
import { computed, onBeforeUnmount, provide, ref, watch } from 'vue'
import { madeName, madeSegments, reelLength, TICKS_PER_SECOND } from '@dusk/timeline'
import { ALL_FEATURES } from '~/features'
import ActionScope from '~/features/registry/ActionScope.vue'
import { FEATURES } from '~/features/registry/feature'
import { useDividers } from '~/features/desk/useDividers'
import { useKeptFocus } from '~/features/desk/useKeptFocus'
import { useRoom } from '~/features/desk/useRoom'
import { useLive } from '~/features/project/useLive'
import { PLAYER } from '~/features/player/usePlayhead'
import { Player } from '~/features/player/player'
import { workerSources } from '~/features/player/workerSources'
import { useDesk } from '~/features/timeline/deskStore'
import { useShortcuts } from '~/features/shortcuts/shortcutsStore'
import { useProject } from '~/features/project/projectStore'
import { useSource } from '~/features/player/sourceStore'
import { useRateNotice } from '~/features/speed/useRateNotice'
import type { RenderRow } from '~/features/render/renderRow'
import { api } from '~/features/ui/api'
import { useNotices } from '~/features/ui/noticesStore'

const route = useRoute()
const router = useRouter()
const notices = useNotices()
const project = useProject()
const desk = useDesk()
const source = useSource()
const shortcuts = useShortcuts()
/** How far beyond the end of the reel the playhead may go: an hour. What is put in there leaves a gap. */
const BEHIND = 3600 * TICKS_PER_SECOND
const player = new Player()
provide(PLAYER, player)
provide(FEATURES, ALL_FEATURES)
const rendering = ref(false)
const again = ref<RenderRow | null>(null)
useRateNotice()
useKeptFocus()
const floor = ref<HTMLElement | null>(null)
const { height } = useElementSize(floor)
const room = useRoom(height, () => source.asset !== null)

const id = String(route.params.id)
void project.open(id)
useLive(
  id,
  (event) => {
    if (event.kind === 'edit') void project.of(id)?.heardOfEdit(event.seq)
    else if (event.kind === 'asset' || event.kind === 'media') project.of(id)?.states.refresh()
  },
  () => void project.of(id)?.reconnect(),
)

watch(
  () => [project.document, project.reelId, source.reel] as const,
  ([document, reelId, open]) => {
    if (open) player.setDocument(open.project, open.reelId, open.length)
    else if (document?.reels[reelId]) player.setDocument(document, reelId, reelLength(document, reelId), BEHIND)
  },
)
// Opening a source and going back to the reel each find their own place again.
watch(
  () => source.assetId,
  (id) => player.seek(id ? source.startAt : source.parked),
  { flush: 'post' },
)
watch(
  () => source.startAt,
  (tick) => source.assetId && player.seek(tick),
)
watch(
  () => project.reelId,
  () => {
    desk.select([], null)
    desk.range = null
  },
)
/** What loops: the marked part of the source that is open, or of the reel. */
watch(
  () => [desk.looping, desk.range, source.assetId, source.range] as const,
  ([on, range, id, part]) => player.setLoop(on ? (id ? part : range) : null),
)
watch(
  () => [project.sources, project.document] as const,
  ([states, document]) => document && player.setSources(workerSources(states, document)),
)
/** Frames that are to be made between those of slowed clips: asked for once a clip wants them, and the server knows. */
let askedFor = ''
watch(
  () => [project.document ? madeSegments(project.document) : [], project.waiting] as const,
  ([segments, waiting]) => {
    const names = segments.map((part) => part.assetId + madeName(part)).join()
    if (waiting > 0 || names === askedFor) return
    askedFor = names
    if (names) project.refreshSources()
  },
)
/** Tall reels turn the desk: the viewer takes a column of its own. */
const tall = computed(() => (project.reel ? project.reel.format.height > project.reel.format.width * 1.1 : false))

/** A gallery that takes the whole height stands in a column of its own, other drawers beside or above the viewer. */
const gallery = computed(
  () => desk.drawerTall && ALL_FEATURES.some(({ drawer }) => drawer?.id === desk.drawer && drawer?.gallery),
)
const drawer = computed(() => desk.drawer !== null && !gallery.value)

useDividers(floor, () => [room.sizes.value, room.upper.value, desk.drawer, gallery.value, tall.value])

onBeforeUnmount(() => {
  source.assetId = null
  player.dispose()
  // The page of another project may have opened that already.
  project.close(id)
  desk.select([], null)
})

/** A render of this project is made again with changes, as the address asks for it. */
async function beginAgain(renderId: string): Promise<void> {
  const { renders } = await api<{ renders: RenderRow[] }>('/renders').catch(() => ({ renders: [] }))
  const found = renders.find((row) => row.id === renderId && project.document?.reels[row.reelId])
  if (!found) return notices.warn('That render, or the reel that it was made of, is no longer there.')
  project.reelId = found.reelId
  again.value = found
  rendering.value = true
}
watch(
  () => project.reel !== null,
  (open) => {
    const { render } = route.query
    if (!open || typeof render !== 'string') return
    void beginAgain(render)
    void router.replace({ query: {} })
  },
  { immediate: true },
)

function started(): void {
  rendering.value = false
  void navigateTo('/renders')
}
</script>

<template>
  <div class="flex h-full flex-col overflow-clip" :data-calm="desk.calm || undefined">
    <div v-if="project.missing" class="m-auto text-center">
      <p class="text-lg">{{ project.missing }}</p>
      <NuxtLink to="/" class="mt-4 inline-block text-ember">Back to the projects</NuxtLink>
    </div>
    <ActionScope v-else-if="project.document && project.reel">
      <TopBar :room="room" @render="rendering = true" />
      <div class="flex min-h-0 flex-1">
        <SideRail />
        <main ref="floor" class="flex min-w-0 flex-1">
          <Splitpanes class="min-w-0" @resized="room.keepGallery($event, gallery)">
            <Pane v-if="gallery" :size="room.sizes.value.gallery" :min-size="15"><DeskDrawer /></Pane>
            <Pane :size="100 - (gallery ? room.sizes.value.gallery : 0)" :min-size="40">
              <Splitpanes v-if="!tall" horizontal @resized="room.keepUpper">
                <Pane :size="room.upper.value" :min-size="25">
                  <Splitpanes @resized="room.keepSides($event, drawer, gallery)">
                    <Pane v-if="drawer" :size="room.sizes.value.drawer" :min-size="14"><DeskDrawer /></Pane>
                    <Pane :size="room.middle(drawer, gallery)" :min-size="25"><ViewerRoom /></Pane>
                    <Pane :size="room.details(gallery)" :min-size="14"><DetailsPanel /></Pane>
                  </Splitpanes>
                </Pane>
                <Pane :size="100 - room.upper.value" :min-size="20"><ReelPanel /></Pane>
              </Splitpanes>
              <Splitpanes v-else @resized="room.keepTall">
                <Pane :size="room.tallMiddle()" :min-size="30">
                  <Splitpanes horizontal @resized="room.keepTallDrawer($event, drawer)">
                    <Pane v-if="drawer" :size="room.sizes.value.tallDrawer" :min-size="15"><DeskDrawer /></Pane>
                    <Pane :size="100 - (drawer ? room.sizes.value.tallDrawer : 0)" :min-size="30"><ReelPanel /></Pane>
                  </Splitpanes>
                </Pane>
                <Pane :size="room.sizes.value.tallDetails" :min-size="12"><DetailsPanel /></Pane>
                <Pane :size="room.sizes.value.tallViewer" :min-size="18"><ViewerRoom /></Pane>
              </Splitpanes>
            </Pane>
          </Splitpanes>
        </main>
      </div>
      <template v-for="feature in ALL_FEATURES" :key="feature.id">
        <component :is="feature.desk" v-if="feature.desk" />
      </template>
      <ShortcutsDialog :open="shortcuts.sheetOpen" @close="shortcuts.sheetOpen = false" />
      <RenderDialog
        :open="rendering"
        :again="again"
        @close="((rendering = false), (again = null))"
        @started="started"
      />
    </ActionScope>
    <p v-else class="m-auto text-muted">Opening…</p>
  </div>
</template>
