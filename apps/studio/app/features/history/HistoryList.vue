<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { api } from '~/features/ui/api'
import { windowId } from '~/features/ui/windowId'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import type { CommandInput } from '@dusk/timeline'

interface Entry {
  seq: number
  label: string
  at: string
  windowId: string
}

/** Everything that was done to the project, newest first. A click goes back to that state, which is an edit itself. */
const emit = defineEmits<{ done: [] }>()
const project = useProject()
const notices = useNotices()
const entries = ref<Entry[]>([])
const more = ref(false)
const loading = ref(true)
const words = ref('')
const found = computed(() => {
  const wanted = words.value.trim().toLowerCase()
  return wanted ? entries.value.filter(({ label }) => label.toLowerCase().includes(wanted)) : entries.value
})
const own = windowId()

async function load(before?: number): Promise<void> {
  loading.value = true
  try {
    const query = before === undefined ? '' : `?before=${before}`
    const page = (await api<{ entries: Entry[] }>(`/projects/${project.id}/history${query}`)).entries
    entries.value = before === undefined ? page : [...entries.value, ...page]
    more.value = page.length === 100
  } catch (error) {
    notices.warn((error as Error).message)
  } finally {
    loading.value = false
  }
}
onMounted(() => void load())
watch(
  () => [project.waiting, project.document] as const,
  ([waiting]) => waiting === 0 && void load(),
)

async function goTo(seq: number): Promise<void> {
  try {
    const { command } = await api<{ command: CommandInput }>(`/projects/${project.id}/revert?seq=${seq}`)
    if (command.type === 'restore' && command.patches.length === 0) notices.say('Nothing has changed since.')
    else project.perform(command)
    emit('done')
  } catch (error) {
    notices.warn((error as Error).message)
  }
}

/** Windows that the edits came from, numbered as they are met; this one has no name. */
const windows = computed(() =>
  [...new Set(entries.value.toReversed().map((entry) => entry.windowId))].filter(
    (one) => one !== own && one !== 'server',
  ),
)
function windowName(from: string): string {
  const place = windows.value.indexOf(from)
  return place < 0 ? '' : windows.value.length === 1 ? 'another window' : `window ${place + 2}`
}

const time = (at: string) => new Date(at).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false })
</script>

<template>
  <div class="flex items-center gap-2 border-b border-line px-3 py-2">
    <h2 class="font-semibold">What was done</h2>
    <input
      v-model="words"
      class="field ml-auto w-40"
      type="search"
      placeholder="Find a step"
      aria-label="Find a step"
      @keydown.stop
    />
  </div>
  <div class="max-h-96 overflow-auto py-1">
    <p v-if="words && found.length === 0" class="px-3 py-2 text-muted">
      No step here is called like that.{{ more ? ' Earlier ones are not searched yet.' : '' }}
    </p>
    <p v-if="!loading && entries.length === 0" class="px-3 py-2 text-muted">Nothing was done yet.</p>
    <ol aria-label="History">
      <li v-for="entry in found" :key="entry.seq">
        <button
          class="flex w-full items-baseline gap-3 px-3 py-1 text-left hover:bg-line"
          :class="entry === entries[0] && 'text-ember'"
          :disabled="entry === entries[0]"
          :title="entry === entries[0] ? 'This is how it is now' : `Go back to how it was after: ${entry.label}`"
          @click="goTo(entry.seq)"
        >
          <span class="min-w-0 flex-1 truncate">{{ entry.label }}</span>
          <span v-if="windowName(entry.windowId)" class="text-[11px] text-muted">{{ windowName(entry.windowId) }}</span>
          <span class="font-mono text-[10px] text-muted">{{ time(entry.at) }}</span>
        </button>
      </li>
      <li v-if="more">
        <button class="w-full px-3 py-1 text-left text-muted hover:text-ivory" @click="load(entries.at(-1)!.seq)">
          Earlier …
        </button>
      </li>
      <li v-else-if="entries.length > 0">
        <button class="w-full px-3 py-1 text-left text-muted hover:bg-line" @click="goTo(0)">The beginning</button>
      </li>
    </ol>
  </div>
</template>
