<script setup lang="ts">
import TriangleAlert from '@lucide/vue/dist/esm/icons/triangle-alert.mjs'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { api } from '~/features/ui/api'
import { formatBytes } from '~/features/ui/sizes'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import { useUploads, type Sending } from './uploadsStore'

/** Files on their way in, and those that could not be read with the reason. */
defineProps<{ sending: readonly Sending[] }>()
const project = useProject()
const uploads = useUploads()
const notices = useNotices()

async function dismiss(id: string): Promise<void> {
  await api(`/assets/${id}`, 'DELETE').catch((error: Error) => notices.warn(error.message))
  project.refreshSources()
}
</script>

<template>
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
      v-for="entry in project.pendingImports"
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
</template>
