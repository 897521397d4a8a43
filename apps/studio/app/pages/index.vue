<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import Clapperboard from '@lucide/vue/dist/esm/icons/clapperboard.mjs'
import HardDrive from '@lucide/vue/dist/esm/icons/hard-drive.mjs'
import Plus from '@lucide/vue/dist/esm/icons/plus.mjs'
import Search from '@lucide/vue/dist/esm/icons/search.mjs'
import Upload from '@lucide/vue/dist/esm/icons/upload.mjs'
import type { Format } from '@dusk/timeline'
import { useLive } from '~/features/project/useLive'
import { api } from '~/features/ui/api'
import { windowId } from '~/features/ui/windowId'
import { useNotices } from '~/features/ui/noticesStore'
import { useUploads } from '~/features/library/uploadsStore'
import type { ProjectRow } from '~/features/projects/ProjectCard.vue'

const notices = useNotices()
const uploads = useUploads()
const projects = ref<ProjectRow[] | null>(null)
const search = ref('')
const creating = ref(false)
const picker = ref<HTMLInputElement | null>(null)

const found = computed(() => {
  const words = search.value.trim().toLowerCase()
  return (projects.value ?? []).filter((project) => project.name.toLowerCase().includes(words))
})

async function load(): Promise<void> {
  try {
    projects.value = (await api<{ projects: ProjectRow[] }>('/projects')).projects
  } catch (error) {
    notices.warn((error as Error).message)
    setTimeout(load, 2000)
  }
}

/** Does something on the server; a refusal is said and nothing else changes. */
async function attempt(work: () => Promise<unknown>): Promise<void> {
  try {
    await work()
    await load()
  } catch (error) {
    notices.warn((error as Error).message)
  }
}

async function create(name: string, format: Format): Promise<void> {
  await attempt(async () => {
    const { id } = await api<{ id: string }>('/projects', 'POST', { name, format })
    creating.value = false
    await navigateTo(`/projects/${id}`)
  })
}

const rename = (id: string, name: string) =>
  attempt(() =>
    api(`/projects/${id}/edits`, 'POST', {
      windowId: windowId(),
      edits: [{ id: crypto.randomUUID(), command: { type: 'renameProject', name } }],
    }),
  )

const remove = (project: ProjectRow) =>
  attempt(async () => {
    await api(`/projects/${project.id}`, 'DELETE')
    notices.say(`${project.name} was deleted.`, 'plain', {
      label: 'Bring it back',
      run: () => void attempt(() => api(`/projects/${project.id}/restore`, 'POST')),
    })
  })

async function openArchive(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  await attempt(async () => {
    const header = await uploads.send(file, null)
    const id = header('Dusk-Project')
    if (id) await navigateTo(`/projects/${id}`)
  })
}

useLive(null, (event) => event.kind === 'projects' && void load(), load)
onMounted(load)
</script>

<template>
  <main class="h-full overflow-auto">
    <div class="mx-auto max-w-6xl px-8 py-8">
      <header class="flex flex-wrap items-center gap-3">
        <img src="/lantern.svg" alt="" class="size-9" />
        <h1 class="mr-auto font-display text-2xl font-semibold">Dusk Reel</h1>
        <label class="relative w-56">
          <Search :size="14" class="absolute top-1/2 left-2 -translate-y-1/2 text-muted" />
          <input v-model="search" class="field pl-7" placeholder="Find a project" aria-label="Find a project" />
        </label>
        <NuxtLink to="/renders" class="key key-line"><Clapperboard :size="15" /> Renders</NuxtLink>
        <NuxtLink to="/disk" class="key key-line"><HardDrive :size="15" /> Room on disk</NuxtLink>
        <button class="key key-line" @click="picker?.click()"><Upload :size="15" /> Open an archive</button>
        <input
          ref="picker"
          type="file"
          accept=".duskreel"
          class="hidden"
          aria-label="Archive to open"
          @change="openArchive"
        />
        <button class="key key-ember px-3" @click="creating = true"><Plus :size="16" /> New project</button>
      </header>
      <p v-for="entry in uploads.list" :key="entry.id" class="mt-4 text-muted">
        {{ entry.fileName }}:
        {{ entry.message ?? `${Math.round((entry.sent / Math.max(entry.size, 1)) * 100)} % sent` }}
      </p>
      <p v-if="projects && projects.length === 0" class="mt-24 text-center text-lg text-muted">
        No project yet. Make one with “New project”, drop clips into it, and cut your first reel.
      </p>
      <p v-else-if="projects && found.length === 0" class="mt-24 text-center text-lg text-muted">
        No project is called like that.
      </p>
      <div class="mt-8 grid grid-cols-[repeat(auto-fill,minmax(260px,1fr))] gap-5">
        <ProjectCard
          v-for="project in found"
          :key="project.id"
          :project="project"
          @rename="rename(project.id, $event)"
          @copy="attempt(() => api(`/projects/${project.id}/copy`, 'POST'))"
          @remove="remove(project)"
        />
      </div>
    </div>
    <NewProjectDialog :open="creating" @close="creating = false" @create="create" />
  </main>
</template>
