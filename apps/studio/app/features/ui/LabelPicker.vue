<script setup lang="ts">
import type { Label } from '@dusk/timeline'
import { LABELS } from './labels'

/** The person's colour labels, one of them chosen; with `none`, also no label. */
defineProps<{ value: Label | null; none?: boolean }>()
const emit = defineEmits<{ change: [value: Label | null] }>()
</script>

<template>
  <div class="flex gap-2" role="group" aria-label="Label">
    <button
      v-if="none"
      class="size-6 rounded-full border border-line text-[10px] text-muted"
      :aria-pressed="value === null"
      aria-label="No label"
      @click="emit('change', null)"
    >
      —
    </button>
    <button
      v-for="label in LABELS"
      :key="label"
      class="size-6 rounded-full"
      :class="value === label && 'outline-2 outline-offset-2 outline-ivory'"
      :style="{ background: `var(--color-${label})` }"
      :aria-pressed="value === label"
      :aria-label="`Label ${label}`"
      @click="emit('change', label)"
    />
  </div>
</template>
