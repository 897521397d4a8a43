<script setup lang="ts" generic="T extends string | number">
/** A choice that opens from a button of its own: each entry with its name and, where it needs one, a line about it. */
import { Listbox, ListboxButton, ListboxLabel, ListboxOption, ListboxOptions } from '@headlessui/vue'
import ChevronDown from '@lucide/vue/dist/esm/icons/chevron-down.mjs'
import { computed } from 'vue'
import type { Choice } from './choice'

const props = withDefaults(
  defineProps<{
    /** What is chosen. */
    value: T
    options: readonly Choice<T>[]
    /** What is chosen here: said before the value, not shown. Without it the list stands beside a label of its own. */
    label?: string
    /** Classes of the button, and of the list that opens. */
    button?: string
    list?: string
    title?: string
    disabled?: boolean
  }>(),
  {
    button: 'field flex items-center justify-between gap-2 text-left',
    list: 'mt-1 max-h-56 w-full',
  },
)
defineEmits<{ change: [value: T] }>()
const chosen = computed(() => props.options.find((option) => option.value === props.value)?.label ?? 'Mixed')
</script>

<template>
  <Listbox
    :model-value="value"
    :disabled="disabled"
    as="div"
    class="relative"
    @update:model-value="$emit('change', $event as T)"
  >
    <ListboxLabel v-if="label" class="sr-only">{{ label }}</ListboxLabel>
    <slot name="label" />
    <ListboxButton :class="button" :title="title">
      <slot>
        <span class="truncate">{{ chosen }}</span>
        <ChevronDown :size="14" class="shrink-0 text-muted" />
      </slot>
    </ListboxButton>
    <ListboxOptions
      class="absolute top-full z-40 overflow-auto rounded-md border border-line bg-raised py-1 text-ivory"
      :class="[list, 'focus:outline-none']"
    >
      <ListboxOption
        v-for="entry in options"
        :key="entry.value"
        v-slot="{ active, selected }"
        :value="entry.value"
        as="template"
      >
        <ChoiceEntry :entry="entry" :active="active" :selected="selected" />
      </ListboxOption>
    </ListboxOptions>
  </Listbox>
</template>
