<script setup lang="ts">
import { useDebounceFn, useWebNotification } from '@vueuse/core'
import Bell from '@lucide/vue/dist/esm/icons/bell.mjs'
import HardDrive from '@lucide/vue/dist/esm/icons/hard-drive.mjs'
import { computed, onMounted, ref } from 'vue'
import { useLive } from '~/features/project/useLive'
import { inOrder, placeBehind, type RenderRow } from '~/features/render/renderRow'
import PageHead from '~/features/ui/PageHead.vue'
import { api } from '~/features/ui/api'
import { useNotices } from '~/features/ui/noticesStore'

const notices = useNotices()
/** Renders that are shown, and how many more with each press. */
const PAGE = 200
const renders = ref<RenderRow[] | null>(null)
const more = ref(false)
const count = ref(PAGE)
const words = ref('')
const lists = computed(() => inOrder(renders.value ?? []))
const movable = (render: RenderRow) => render.state !== 'working' && lists.value.open.length > 1

let again = false
let loading = false
/** Loads the list; calls while it loads are answered by one more load after. */
async function load(): Promise<void> {
  if (loading) {
    again = true
    return
  }
  loading = true
  try {
    const asked = `count=${count.value}&words=${encodeURIComponent(words.value.trim())}`
    const found = await api<{ renders: RenderRow[]; more: boolean }>(`/renders?${asked}`)
    renders.value = found.renders
    more.value = found.more ?? false
  } catch (error) {
    notices.warn((error as Error).message)
  }
  loading = false
  if (again) {
    again = false
    void load()
  }
}

/** While somebody types, the list is asked for once they pause. */
const later = useDebounceFn(load, 200)

async function attempt(path: string, method: string, body?: unknown): Promise<void> {
  await api(path, method, body).catch((error: Error) => notices.warn(error.message))
  await load()
}

/** What is asked of the server for a post. */
function postCall(id: string, what: 'cancel' | 'resume' | 'forget'): [path: string, method: string] {
  return what === 'forget' ? [`/posts/${id}`, 'DELETE'] : [`/posts/${id}/${what}`, 'POST']
}

/** Puts a render where another one lies. */
function move(dragged: string, target: string | undefined): void {
  const after = target === undefined ? undefined : placeBehind(lists.value.open, dragged, target)
  if (after !== undefined) void attempt(`/renders/${dragged}/move`, 'POST', { after })
}
function step(render: RenderRow, by: -1 | 1): void {
  const { open } = lists.value
  const neighbour = open[open.findIndex(({ id }) => id === render.id) + by]
  if (neighbour && movable(neighbour)) move(render.id, neighbour.id)
}

/** A message of the system for whoever looks at something else meanwhile. */
const { isSupported, permissionGranted, show, ensurePermissions } = useWebNotification({ requestPermissions: false })
async function allow(): Promise<void> {
  if (!(await ensurePermissions())) notices.warn('This browser does not show messages of this page; its settings can.')
}
function tell(id: string, ended: 'ready' | 'failed'): void {
  const render = renders.value?.find((row) => row.id === id)
  if (!document.hidden || !permissionGranted.value || !render) return
  void show({ title: render.name, body: ended === 'ready' ? 'The render is ready.' : 'The render failed.' })
}

useLive(
  null,
  (event) => {
    if (event.kind !== 'render') return
    void load().then(() => event.ended && tell(event.renderId, event.ended))
  },
  load,
)
onMounted(load)
</script>

<template>
  <main class="h-full overflow-auto">
    <div class="mx-auto max-w-4xl px-8 py-8">
      <PageHead title="Renders">
        <button
          v-if="isSupported && !permissionGranted && lists.open.length > 0"
          class="key key-line"
          title="With a message of the system, while this page is in the background"
          @click="allow"
        >
          <Bell :size="15" /> Tell me when it is done
        </button>
        <NuxtLink to="/disk" class="key key-line"><HardDrive :size="15" /> Room on disk</NuxtLink>
      </PageHead>
      <input
        v-if="words || more || (renders?.length ?? 0) > 8"
        v-model="words"
        class="field mb-4 w-72"
        type="search"
        maxlength="200"
        placeholder="Find by film or project"
        aria-label="Find a render by its name or its project’s"
        @input="later"
      />
      <p v-if="renders && renders.length === 0" class="mt-24 text-center text-lg text-muted">
        {{
          words
            ? 'No render and no project is called that.'
            : 'Nothing was rendered yet. Open a project and press Render.'
        }}
      </p>
      <section v-if="lists.open.length > 0" class="mb-8 space-y-3" aria-label="Under way">
        <RenderQueueItem
          v-for="render in lists.open"
          :key="render.id"
          :render="render"
          :movable="movable(render)"
          @take="(id) => move(id, render.id)"
          @step="(by) => step(render, by)"
        >
          <RenderCard
            :render="render"
            @cancel="attempt(`/renders/${render.id}/cancel`, 'POST')"
            @pause="attempt(`/renders/${render.id}/pause`, 'POST')"
            @resume="attempt(`/renders/${render.id}/resume`, 'POST')"
          />
        </RenderQueueItem>
      </section>
      <section class="space-y-3" aria-label="Done">
        <RenderCard
          v-for="render in lists.done"
          :key="render.id"
          :render="render"
          @resume="attempt(`/renders/${render.id}/resume`, 'POST')"
          @remove="attempt(`/renders/${render.id}`, 'DELETE')"
          @posted="load"
          @post="(id, what) => attempt(...postCall(id, what))"
        />
      </section>
      <button v-if="more" class="key key-line mx-auto mt-6 block" @click="((count += PAGE), load())">
        Earlier renders
      </button>
    </div>
  </main>
</template>
