<script setup lang="ts">
/** A button with an icon and, where there is room, its word; with `pressed` it is a switch. */
// Without a default of its own an absent switch would be `false`, and read out as one that is off.
withDefaults(defineProps<{ label: string; title: string; pressed?: boolean; disabled?: boolean; wide?: boolean }>(), {
  pressed: undefined,
})
</script>

<template>
  <button
    class="key"
    :class="[pressed && 'bg-raised text-lamp', !wide && 'px-1.5']"
    :aria-label="label"
    :aria-pressed="pressed"
    :title="title"
    :disabled="disabled"
  >
    <slot /> <span v-if="wide" class="hidden @4xl:inline">{{ label }}</span>
  </button>
</template>
