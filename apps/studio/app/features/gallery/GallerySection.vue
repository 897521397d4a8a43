<script setup lang="ts">
/** Entries of a gallery that belong together. */
defineProps<{ name: string; hint?: string }>()
</script>

<template>
  <div class="pt-3" role="group" :aria-label="name">
    <h3 class="pb-1.5 text-sm font-semibold text-muted" :title="hint">{{ name }}</h3>
    <ul class="grid grid-cols-[repeat(auto-fill,minmax(92px,1fr))] gap-2">
      <slot />
    </ul>
  </div>
</template>
