<script setup lang="ts">
/** A small switch of a track's head: hide, mute, solo, lock. */
defineProps<{ label: string; title: string; pressed: boolean; tone: 'text-rose' | 'text-lamp' | 'text-ember' }>()
</script>

<template>
  <button
    class="grid size-6 place-items-center"
    :class="pressed ? tone : 'text-muted hover:text-ivory'"
    :aria-pressed="pressed"
    :title="title"
    :aria-label="label"
  >
    <slot />
  </button>
</template>
