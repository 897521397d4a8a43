<script setup lang="ts">
import { onBeforeUnmount, watch } from 'vue'
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'

/** A modal window. */
const props = defineProps<{ open: boolean; title: string; wide?: boolean }>()
const emit = defineEmits<{ close: [] }>()

let hadFocus = false
/** Headless UI hands focus to what had it last, even where nothing had it any more: a field would swallow the keys. */
const leaveAlone = () => requestAnimationFrame(() => (document.activeElement as HTMLElement | null)?.blur())
watch(
  () => props.open,
  (open) => {
    if (open) hadFocus = document.activeElement !== document.body
    else if (!hadFocus) leaveAlone()
  },
  { flush: 'sync', immediate: true },
)
onBeforeUnmount(() => {
  if (props.open && !hadFocus) leaveAlone()
})
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
