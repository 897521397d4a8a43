<script setup lang="ts" generic="T extends string | number">
/** A choice among many, found by typing some of its name. */
import {
  Combobox,
  ComboboxButton,
  ComboboxInput,
  ComboboxLabel,
  ComboboxOption,
  ComboboxOptions,
} from '@headlessui/vue'
import ChevronDown from '@lucide/vue/dist/esm/icons/chevron-down.mjs'
import { computed, ref } from 'vue'
import type { Choice } from './choice'

const props = defineProps<{
  label: string
  value: T
  options: readonly Choice<T>[]
  disabled?: boolean
}>()
const emit = defineEmits<{ change: [value: T]; open: [] }>()
const words = ref('')
const found = computed(() => {
  const wanted = words.value.trim().toLowerCase()
  return props.options.filter((option) => option.label.toLowerCase().includes(wanted))
})
const chosen = computed(() => props.options.find((option) => option.value === props.value))
const nameOf = (value: unknown) => props.options.find((option) => option.value === value)?.label ?? 'Mixed'

function choose(value: T): void {
  words.value = ''
  emit('change', value)
}
</script>

<template>
  <Combobox
    :model-value="value"
    :disabled="disabled"
    as="div"
    class="relative min-w-0"
    @update:model-value="choose($event as T)"
  >
    <!-- By itself the field would be called as the button beside it is. -->
    <ComboboxLabel class="sr-only">{{ label }}</ComboboxLabel>
    <ComboboxInput
      class="field truncate pr-6"
      :style="chosen?.style"
      :aria-label="label"
      :display-value="nameOf"
      autocomplete="off"
      spellcheck="false"
      @change="words = $event.target.value"
      @focus="(($event.target as HTMLInputElement).select(), emit('open'))"
      @blur="words = ''"
      @keydown.stop
    />
    <ComboboxButton
      class="absolute inset-y-0 right-0 grid w-6 place-items-center text-muted"
      :aria-label="`All of ${label}`"
      @click="((words = ''), emit('open'))"
    >
      <ChevronDown :size="14" />
    </ComboboxButton>
    <ComboboxOptions
      class="absolute top-full z-40 mt-1 max-h-56 w-full overflow-auto rounded-md border border-line bg-raised py-1"
    >
      <li v-if="found.length === 0" class="px-2 py-1 text-muted">Nothing is called that.</li>
      <ComboboxOption
        v-for="entry in found"
        :key="entry.value"
        v-slot="{ active, selected }"
        :value="entry.value"
        as="template"
      >
        <ChoiceEntry :entry="entry" :active="active" :selected="selected" />
      </ComboboxOption>
    </ComboboxOptions>
  </Combobox>
</template>
