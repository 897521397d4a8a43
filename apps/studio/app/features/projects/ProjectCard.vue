<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import Ellipsis from '@lucide/vue/dist/esm/icons/ellipsis.mjs'
import { nextTick, ref } from 'vue'
import { formatShort } from '@dusk/timeline'
import { api, ApiError } from '~/features/ui/api'
import { useNotices } from '~/features/ui/noticesStore'
import { saveFile } from '~/features/ui/saveFile'

/** A project on the first page. */
export interface ProjectRow {
  id: string
  name: string
  length: number
  /** A frame of its first reel. */
  posterUrl: string | null
  /** A film strip of a source of its, for as long as no frame was drawn. */
  poster: { url: string; tileWidth: number; tileHeight: number } | null
  editedAt: string
}

const props = defineProps<{ project: ProjectRow }>()
const emit = defineEmits<{ rename: [name: string]; copy: []; remove: [] }>()

const notices = useNotices()
const renaming = ref(false)
const field = ref<HTMLInputElement | null>(null)
const broken = ref(false)
const lost = ref(false)

async function beginRename(): Promise<void> {
  renaming.value = true
  await nextTick()
  field.value?.select()
}

function endRename(): void {
  const name = field.value?.value.trim() ?? ''
  renaming.value = false
  if (name && name !== props.project.name) emit('rename', name)
}

/** Saves the project with its files; where some are missing, that is said first. */
async function saveArchive(): Promise<void> {
  const { id, name } = props.project
  const save = (query = '') => saveFile(`/api/projects/${id}/archive${query}`, `${name}.duskreel`)
  try {
    await api(`/projects/${id}/archive?look=1`)
    save()
  } catch (error) {
    const { message } = error as Error
    if (!(error instanceof ApiError) || error.status !== 409) return notices.warn(message)
    notices.say(message, 'warning', { label: 'Save without', run: () => save('?lacking=1') })
  }
}

const edited = new Date(props.project.editedAt).toLocaleString([], {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
})
</script>

<template>
  <article class="group relative overflow-hidden rounded-md border border-line bg-panel hover:border-dusk">
    <div class="flex aspect-video items-center justify-center overflow-hidden bg-ground">
      <img
        v-if="project.posterUrl && !lost"
        :src="project.posterUrl"
        alt=""
        class="size-full object-cover"
        @error="lost = true"
      />
      <div v-else-if="project.poster && !broken" class="poster size-full">
        <PosterTile :poster="project.poster" @missing="broken = true" />
      </div>
      <img v-else src="/lantern.svg" alt="" class="size-12 opacity-60" />
    </div>
    <!-- The whole card opens it: picture, name and date lie under one link. -->
    <NuxtLink
      :to="`/projects/${project.id}`"
      class="absolute inset-0 -outline-offset-2"
      :aria-label="`Open ${project.name}`"
    />
    <div class="flex items-start gap-2 p-3">
      <div class="min-w-0 flex-1">
        <input
          v-if="renaming"
          ref="field"
          class="field relative"
          :value="project.name"
          aria-label="Name of the project"
          maxlength="200"
          @blur="endRename"
          @keydown.enter="endRename"
          @keydown.esc="renaming = false"
        />
        <h2 v-else class="truncate font-display text-lg font-semibold">{{ project.name }}</h2>
        <p class="text-sm text-muted">
          {{ project.length > 0 ? formatShort(project.length) : 'empty' }} · edited {{ edited }}
        </p>
      </div>
      <Menu as="div" class="relative">
        <MenuButton class="key px-1" :aria-label="`More for ${project.name}`"><Ellipsis :size="16" /></MenuButton>
        <MenuItems class="absolute right-0 bottom-full z-10 w-40 rounded-md border border-line bg-raised py-1">
          <MenuItem
            v-for="[label, run] in [
              ['Rename', beginRename],
              ['Make a copy', () => emit('copy')],
              ['Save as archive', saveArchive],
            ] as const"
            :key="label"
            v-slot="{ active }"
          >
            <button class="block w-full px-3 py-1 text-left" :class="active && 'bg-line'" @click="run">
              {{ label }}
            </button>
          </MenuItem>
          <MenuItem v-slot="{ active }">
            <button
              class="block w-full px-3 py-1 text-left text-rose"
              :class="active && 'bg-line'"
              @click="emit('remove')"
            >
              Delete
            </button>
          </MenuItem>
        </MenuItems>
      </Menu>
    </div>
  </article>
</template>
