<script setup lang="ts">
import { ref, watch } from 'vue'
import type { FileParam } from '@dusk/timeline'
import { useFileSend } from '~/features/ui/useFileSend'

/** A file that an effect works with: chosen, sent, and named by what it says of itself. */
const props = defineProps<{ param: FileParam; value: string }>()
const emit = defineEmits<{ change: [hash: string] }>()
const input = ref<HTMLInputElement | null>(null)
const words = ref('')
const missing = ref(false)

watch(
  () => props.value,
  async (hash) => {
    words.value = hash ? 'A file' : 'None yet'
    missing.value = false
    if (!hash) return
    const answer = await fetch(`/api/cubes/${hash}`, { headers: { range: 'bytes=0-400' } })
    missing.value = answer.status === 404
    if (missing.value) words.value = 'The file is not there. Load it again.'
    else if (answer.ok) words.value = /^TITLE\s+"?([^"\r\n]+)/m.exec(await answer.text())?.[1] ?? 'Without a title'
  },
  { immediate: true },
)

const { sending, send } = useFileSend(input, '/api/cubes', ({ hash }) => emit('change', hash))
</script>

<template>
  <div class="min-w-0 flex-1 space-y-1">
    <div class="grid grid-cols-[84px_minmax(0,1fr)] items-center gap-2">
      <span class="truncate text-muted">{{ param.label }}</span>
      <button class="key justify-center" :disabled="sending" @click="input?.click()">
        {{ sending ? 'Reading …' : value ? 'Another file' : `Load a ${param.ending} file` }}
      </button>
    </div>
    <p class="truncate text-sm" :class="missing ? 'text-rose' : 'text-muted'" :title="words">{{ words }}</p>
    <input ref="input" type="file" class="hidden" :accept="param.ending" :aria-label="param.label" @change="send" />
  </div>
</template>
