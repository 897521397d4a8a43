<script setup lang="ts">
/** A switch beside its label, with words about what it does. */
defineProps<{ label: string; value: boolean; disabled?: boolean }>()
const emit = defineEmits<{ change: [value: boolean] }>()
</script>

<template>
  <label class="grid grid-cols-[84px_minmax(0,1fr)] items-center gap-2">
    <span class="text-muted">{{ label }}</span>
    <span class="flex items-center gap-1.5">
      <input
        type="checkbox"
        class="accent-ember"
        :checked="value"
        :disabled="disabled"
        @change="emit('change', ($event.target as HTMLInputElement).checked)"
      />
      <span><slot /></span>
    </span>
  </label>
</template>
