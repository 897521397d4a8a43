<script setup lang="ts">
import { onMounted, ref } from 'vue'
import ChevronLeft from '@lucide/vue/dist/esm/icons/chevron-left.mjs'
import { useLive } from '~/features/project/useLive'
import { api } from '~/features/ui/api'
import { useNotices } from '~/features/ui/noticesStore'

const notices = useNotices()
type Row = InstanceType<typeof import('~/features/render/RenderCard.vue').default>['$props']['render']
const renders = ref<Row[] | null>(null)
const router = useRouter()

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
    renders.value = (await api<{ renders: Row[] }>('/renders')).renders
  } catch (error) {
    notices.warn((error as Error).message)
  }
  loading = false
  if (again) {
    again = false
    void load()
  }
}

async function attempt(path: string, method: string): Promise<void> {
  await api(path, method).catch((error: Error) => notices.warn(error.message))
  await load()
}

useLive(null, (event) => event.kind === 'render' && void load(), load)
onMounted(load)
</script>

<template>
  <main class="h-full overflow-auto">
    <div class="mx-auto max-w-4xl px-8 py-8">
      <header class="mb-6 flex items-center gap-2">
        <button class="key px-1.5" aria-label="Back" @click="router.back()"><ChevronLeft :size="18" /></button>
        <h1 class="font-display text-2xl font-semibold">Renders</h1>
      </header>
      <p v-if="renders && renders.length === 0" class="mt-24 text-center text-lg text-muted">
        Nothing was rendered yet. Open a project and press Render.
      </p>
      <div class="space-y-3">
        <RenderCard
          v-for="render in renders ?? []"
          :key="render.id"
          :render="render"
          @cancel="attempt(`/renders/${render.id}/cancel`, 'POST')"
          @remove="attempt(`/renders/${render.id}`, 'DELETE')"
        />
      </div>
    </div>
  </main>
</template>
