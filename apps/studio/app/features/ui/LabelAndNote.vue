<script setup lang="ts">
/** The colour label and the note that a person gives a thing. */
import type { Label } from '@dusk/timeline'

defineProps<{ label: Label | null; note: string; noteLabel: string }>()
defineEmits<{ change: [values: { label?: Label | null; note?: string }] }>()
</script>

<template>
  <section class="border-t border-line py-3">
    <h3 class="font-semibold">Label</h3>
    <LabelPicker class="mt-2" none :value="label" @change="$emit('change', { label: $event })" />
  </section>
  <section class="border-t border-line py-3">
    <h3 class="font-semibold">Note</h3>
    <textarea
      class="field mt-2 h-16 py-1"
      :value="note"
      maxlength="4000"
      :aria-label="noteLabel"
      @change="$emit('change', { note: ($event.target as HTMLTextAreaElement).value })"
      @keydown.stop
    />
  </section>
</template>
