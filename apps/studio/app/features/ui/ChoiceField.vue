<script setup lang="ts" generic="T extends string | number">
import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/vue'
import ChevronDown from '@lucide/vue/dist/esm/icons/chevron-down.mjs'

/** One of several named values. */
defineProps<{ label: string; value: T; options: readonly { value: T; label: string }[]; disabled?: boolean }>()
const emit = defineEmits<{ change: [value: T] }>()
</script>

<template>
  <div class="grid grid-cols-[84px_minmax(0,1fr)] items-center gap-2">
    <span class="truncate text-muted">{{ label }}</span>
    <Listbox
      :model-value="value"
      :disabled="disabled"
      class="relative"
      as="div"
      @update:model-value="emit('change', $event as T)"
    >
      <ListboxButton class="field flex items-center justify-between gap-2 text-left" :aria-label="label">
        <span class="truncate">{{ options.find((option) => option.value === value)?.label ?? 'Mixed' }}</span>
        <ChevronDown :size="14" class="shrink-0 text-muted" />
      </ListboxButton>
      <ListboxOptions
        class="absolute z-40 mt-1 max-h-56 w-full overflow-auto rounded-md border border-line bg-raised py-1"
      >
        <ListboxOption
          v-for="option in options"
          :key="option.value"
          v-slot="{ active, selected }"
          :value="option.value"
          as="template"
        >
          <li class="cursor-pointer px-2 py-1" :class="[active && 'bg-line', selected && 'text-ember']">
            {{ option.label }}
          </li>
        </ListboxOption>
      </ListboxOptions>
    </Listbox>
  </div>
</template>
