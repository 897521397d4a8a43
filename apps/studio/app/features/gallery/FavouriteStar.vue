<script setup lang="ts">
import Star from '@lucide/vue/dist/esm/icons/star.mjs'

/** Keeps an entry of a gallery among the favourites; seen while it is one, or the pointer is near. */
defineProps<{ name: string; favourite: boolean }>()
defineEmits<{ toggle: [] }>()
</script>

<template>
  <button
    class="tile-corner group-hover:opacity-100 focus:opacity-100"
    :class="favourite ? 'text-lamp' : 'text-ivory opacity-0'"
    :aria-pressed="favourite"
    :aria-label="favourite ? `${name} is a favourite` : `Keep ${name} as a favourite`"
    @click="$emit('toggle')"
  >
    <Star :size="13" :fill="favourite ? 'currentColor' : 'none'" />
  </button>
</template>
