<script setup lang="ts">
import { computed, ref } from 'vue'
import Plus from '@lucide/vue/dist/esm/icons/plus.mjs'
import Search from '@lucide/vue/dist/esm/icons/search.mjs'
import TriangleAlert from '@lucide/vue/dist/esm/icons/triangle-alert.mjs'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { api } from '~/lib/api'
import { formatBytes } from '~/lib/sizes'
import { useProject } from '~/stores/project'
import { useNotices } from '~/stores/notices'
import { useUploads } from '~/stores/uploads'

const project = useProject()
const uploads = useUploads()
const notices = useNotices()
const search = ref('')
const kind = ref<'all' | 'video' | 'sound' | 'still'>('all')
const picker = ref<HTMLInputElement | null>(null)
const over = ref(false)
const KINDS = [
  ['all', 'All'],
  ['video', 'Picture'],
  ['sound', 'Sound'],
  ['still', 'Stills'],
] as const

const assets = computed(() => {
  const words = search.value.trim().toLowerCase()
  return Object.values(project.document?.assets ?? {})
    .filter((asset) => (kind.value === 'all' || asset.kind === kind.value) && asset.name.toLowerCase().includes(words))
    .sort((a, b) => a.name.localeCompare(b.name))
})
const used = computed(() => new Set(Object.values(project.document?.clips ?? {}).map((clip) => clip.assetId)))
const count = computed(() => Object.keys(project.document?.assets ?? {}).length)
const sending = computed(() => uploads.list.filter((entry) => entry.projectId === project.id))

function add(files: Iterable<File>): void {
  for (const file of files) uploads.send(file, project.id).catch(() => {})
}

function pick(event: Event): void {
  const input = event.target as HTMLInputElement
  add([...(input.files ?? [])])
  input.value = ''
}

function drop(event: DragEvent): void {
  over.value = false
  add([...(event.dataTransfer?.files ?? [])])
}

async function dismiss(id: string): Promise<void> {
  await api(`/assets/${id}`, 'DELETE').catch((error: Error) => notices.warn(error.message))
  project.refreshSources()
}
</script>

<template>
  <section
    class="flex h-full flex-col bg-panel"
    aria-label="Footage"
    @dragover.prevent="over = $event.dataTransfer?.types.includes('Files') ?? false"
    @dragleave="over = false"
    @drop.prevent="drop"
  >
    <header class="flex items-center justify-between px-3 pt-3">
      <h2 class="font-display text-lg font-semibold">Footage</h2>
      <button class="key px-1.5" title="Add files" aria-label="Add files" @click="picker?.click()">
        <Plus :size="17" />
      </button>
      <input ref="picker" type="file" multiple class="hidden" aria-label="Files to add" @change="pick" />
    </header>
    <div class="space-y-2 px-3 pt-2 pb-1">
      <label class="relative block">
        <Search :size="14" class="absolute top-1/2 left-2 -translate-y-1/2 text-muted" />
        <input
          v-model="search"
          class="field pl-7"
          :placeholder="`Find in ${count} ${count === 1 ? 'item' : 'items'}`"
          aria-label="Find footage"
          @keydown.stop
        />
      </label>
      <div class="flex gap-1" role="group" aria-label="Kind of footage">
        <button
          v-for="[value, label] in KINDS"
          :key="value"
          class="h-6 rounded-full px-2.5 text-sm"
          :class="kind === value ? 'bg-ivory text-ground' : 'bg-raised text-muted hover:text-ivory'"
          :aria-pressed="kind === value"
          @click="kind = value"
        >
          {{ label }}
        </button>
      </div>
    </div>
    <div
      class="relative min-h-0 flex-1 overflow-auto px-3 pb-3"
      :class="over && 'outline-2 -outline-offset-4 outline-dusk outline-dashed'"
    >
      <ul class="space-y-1 pt-1">
        <li v-for="entry in sending" :key="entry.id" class="rounded-md bg-raised p-2 text-sm">
          <div class="flex items-center gap-2">
            <span class="flex-1 truncate">{{ entry.fileName }}</span>
            <button
              class="text-muted hover:text-ivory"
              :aria-label="`Stop sending ${entry.fileName}`"
              @click="uploads.cancel(entry.id)"
            >
              <X :size="14" />
            </button>
          </div>
          <p v-if="entry.state === 'failed'" class="text-rose">{{ entry.message }}</p>
          <template v-else>
            <div class="mt-1 h-1 rounded-full bg-line">
              <div
                class="h-full rounded-full bg-ember"
                :style="{ width: `${(entry.sent / Math.max(entry.size, 1)) * 100}%` }"
              />
            </div>
            <p class="mt-1 text-muted">
              {{
                entry.state === 'waiting'
                  ? 'connection lost, going on soon'
                  : `${formatBytes(entry.sent)} of ${formatBytes(entry.size)}`
              }}
            </p>
          </template>
        </li>
        <li
          v-for="entry in project.arrivals"
          :key="entry.id"
          class="flex items-start gap-2 rounded-md bg-raised p-2 text-sm"
        >
          <TriangleAlert v-if="entry.state === 'failed'" :size="14" class="mt-0.5 shrink-0 text-rose" />
          <div class="min-w-0 flex-1">
            <p class="truncate">{{ entry.fileName }}</p>
            <p :class="entry.state === 'failed' ? 'text-rose' : 'text-muted'">
              {{ entry.message ?? 'being looked at' }}
            </p>
          </div>
          <button
            v-if="entry.state === 'failed'"
            class="text-muted hover:text-ivory"
            :aria-label="`Take ${entry.fileName} off the list`"
            @click="dismiss(entry.id)"
          >
            <X :size="14" />
          </button>
        </li>
      </ul>
      <p
        v-if="count === 0 && sending.length === 0 && project.arrivals.length === 0"
        class="mt-10 px-4 text-center text-muted"
      >
        Drop video, sound or pictures here, or add them with +. You can cut as soon as they appear.
      </p>
      <p v-else-if="count > 0 && assets.length === 0" class="mt-10 text-center text-muted">
        Nothing here is called like that.
      </p>
      <div class="mt-2 grid grid-cols-[repeat(auto-fill,minmax(104px,1fr))] gap-2.5">
        <AssetCard
          v-for="asset in assets"
          :key="asset.id"
          :asset="asset"
          :source="project.sources[asset.id]"
          :used="used.has(asset.id)"
        />
      </div>
    </div>
  </section>
</template>
