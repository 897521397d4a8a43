<script setup lang="ts" generic="T extends string | number">
import { ListboxLabel } from '@headlessui/vue'
import { SEARCHED_FROM, type Choice } from './choice'

/** One of several named values, beside its label. */
defineProps<{ label: string; value: T; options: readonly Choice<T>[]; disabled?: boolean }>()
const emit = defineEmits<{ change: [value: T]; open: [] }>()
const ROW = 'grid grid-cols-[84px_minmax(0,1fr)] items-center gap-2'
</script>

<template>
  <div v-if="options.length >= SEARCHED_FROM" :class="ROW">
    <span class="truncate text-muted">{{ label }}</span>
    <SearchChoice
      :label="label"
      :value="value"
      :options="options"
      :disabled="disabled"
      @change="emit('change', $event)"
      @open="emit('open')"
    />
  </div>
  <ChoiceList
    v-else
    :class="ROW"
    list="right-0 left-[92px] mt-1 max-h-56"
    :value="value"
    :options="options"
    :disabled="disabled"
    @change="emit('change', $event)"
  >
    <template #label>
      <ListboxLabel class="truncate text-muted">{{ label }}</ListboxLabel>
    </template>
  </ChoiceList>
</template>
