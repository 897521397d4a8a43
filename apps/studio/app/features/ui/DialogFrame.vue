<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'

/** A modal window. */
defineProps<{ open: boolean; title: string; wide?: boolean }>()
const emit = defineEmits<{ close: [] }>()
</script>

<template>
  <Dialog :open="open" class="relative z-40" @close="emit('close')">
    <div class="fixed inset-0 bg-ground/75" aria-hidden="true" />
    <div class="fixed inset-0 flex items-center justify-center p-6">
      <DialogPanel
        class="max-h-full w-full overflow-auto rounded-md border border-line bg-panel p-6"
        :class="wide ? 'max-w-4xl' : 'max-w-lg'"
      >
        <DialogTitle class="font-display text-xl font-semibold">{{ title }}</DialogTitle>
        <slot />
      </DialogPanel>
    </div>
  </Dialog>
</template>
