<script setup lang="ts">
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { useNotices } from './noticesStore'

// Only the buttons take the pointer: what lies beneath a message can still be worked on.
const notices = useNotices()
</script>

<template>
  <div
    class="pointer-events-none fixed bottom-10 left-1/2 z-50 flex -translate-x-1/2 flex-col items-center gap-2"
    role="status"
    aria-live="polite"
  >
    <div
      v-for="notice in notices.list"
      :key="notice.id"
      class="flex max-w-xl items-center gap-3 rounded-md border bg-raised px-3 py-2"
      :class="notice.tone === 'warning' ? 'border-rose' : 'border-line'"
    >
      <span>{{ notice.text }}</span>
      <button
        v-for="action in notice.actions"
        :key="action.label"
        class="pointer-events-auto shrink-0 font-semibold text-ember"
        @click="(action.run(), notices.drop(notice.id))"
      >
        {{ action.label }}
      </button>
      <button
        class="pointer-events-auto text-muted hover:text-ivory"
        aria-label="Close this message"
        @click="notices.drop(notice.id)"
      >
        <X :size="14" />
      </button>
    </div>
  </div>
</template>
