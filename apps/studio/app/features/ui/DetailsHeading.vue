<script setup lang="ts">
/** What the details are about: its name, which can be typed over where it may have another, and what it is. */
defineProps<{ name: string; what: string; label?: string; title?: string }>()
const emit = defineEmits<{ rename: [name: string] }>()
</script>

<template>
  <header class="flex items-baseline gap-2 border-b border-line pb-2">
    <input
      v-if="label"
      class="min-w-0 flex-1 truncate rounded-sm bg-transparent font-display text-lg font-semibold hover:bg-raised"
      :value="name"
      maxlength="200"
      :aria-label="label"
      :title="title"
      @change="emit('rename', ($event.target as HTMLInputElement).value)"
      @keydown.stop
    />
    <h2 v-else class="truncate font-display text-lg font-semibold">{{ name }}</h2>
    <span class="ml-auto shrink-0 text-sm text-muted">{{ what }}</span>
  </header>
</template>
