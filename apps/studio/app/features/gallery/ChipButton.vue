<script setup lang="ts">
/** One of a row of kinds; the pressed one is what is shown. */
defineProps<{ pressed: boolean }>()
</script>

<template>
  <button
    type="button"
    class="h-6 shrink-0 rounded-full px-2.5 text-sm"
    :class="pressed ? 'bg-ivory text-ground' : 'bg-raised text-muted hover:text-ivory'"
    :aria-pressed="pressed"
  >
    <slot />
  </button>
</template>
