<script setup lang="ts">
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { useHints } from './hintsStore'

/** A sentence for the first time, closed for good by its button. */
const props = defineProps<{ id: string }>()
const hints = useHints()
void hints.load()
</script>

<template>
  <p
    v-if="hints.open(props.id)"
    class="flex items-start gap-2 rounded-md border border-line bg-raised px-2.5 py-1.5 text-sm text-muted"
  >
    <span class="min-w-0 flex-1"><slot /></span>
    <button
      class="-mr-1 grid size-5 shrink-0 place-items-center hover:text-ivory"
      aria-label="Don’t show this hint again"
      title="Don’t show this again"
      @click="hints.close(props.id)"
    >
      <X :size="12" />
    </button>
  </p>
</template>
