<script setup lang="ts" generic="T extends string | number">
/** A choice that opens from a button of its own: each entry with its name and, where it needs one, a line about it. */
import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/vue'

defineProps<{
  /** What is chosen. */
  value: T
  options: readonly { value: T; label: string; hint?: string; shortcut?: string }[]
  /** Classes of the button, and of the list that opens. */
  button: string
  list: string
  label?: string
  title?: string
}>()
defineEmits<{ change: [value: T] }>()
</script>

<template>
  <Listbox :model-value="value" as="div" class="relative" @update:model-value="$emit('change', $event)">
    <ListboxButton :class="button" :aria-label="label" :title="title"><slot /></ListboxButton>
    <ListboxOptions
      class="absolute top-full z-30 rounded-md border border-line bg-raised py-1 text-ivory focus:outline-none"
      :class="list"
    >
      <ListboxOption
        v-for="entry in options"
        :key="entry.value"
        v-slot="{ active, selected }"
        :value="entry.value"
        as="template"
      >
        <li class="cursor-pointer px-3 py-1" :class="active && 'bg-line'">
          <span class="flex justify-between" :class="selected && 'text-lamp'"
            >{{ entry.label }}
            <span v-if="entry.shortcut" class="font-mono text-[10px] text-muted">{{ entry.shortcut }}</span></span
          >
          <span v-if="entry.hint" class="text-sm text-muted">{{ entry.hint }}</span>
        </li>
      </ListboxOption>
    </ListboxOptions>
  </Listbox>
</template>
