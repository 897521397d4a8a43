<script setup lang="ts">
import { computed } from 'vue'
import { secondsToTicks, TICKS_PER_SECOND, type TitleMove } from '@dusk/timeline'
import { MOVES } from '@dusk/compositor'

/** One move of a title: which, how long, by what parts, in what order. */
const props = defineProps<{ label: string; value: TitleMove | null; use: 'pass' | 'stay' }>()
const emit = defineEmits<{ change: [value: TitleMove | null] }>()

const kinds = computed(() => [
  { value: '', label: 'None' },
  ...MOVES.filter((kind) => kind.use === props.use).map((kind) => ({ value: kind.id, label: kind.name })),
])
const UNITS = [
  { value: 'whole', label: 'As a whole' },
  { value: 'line', label: 'Line by line' },
  { value: 'word', label: 'Word by word' },
  { value: 'letter', label: 'Letter by letter' },
] as const
const ORDERS = [
  { value: 'forward', label: 'First to last' },
  { value: 'backward', label: 'Last to first' },
  { value: 'outward', label: 'From the middle' },
  { value: 'inward', label: 'To the middle' },
  { value: 'random', label: 'In no order' },
] as const

function choose(move: string): void {
  if (!move) return emit('change', null)
  const seconds = props.use === 'stay' ? 2.5 : 0.9
  emit('change', {
    ...(props.value ?? {
      length: secondsToTicks(seconds),
      unit: props.use === 'stay' ? 'letter' : 'word',
      order: 'forward',
      overlap: 60,
      settings: {},
    }),
    move,
  })
}
const set = (change: Partial<TitleMove>) => props.value && emit('change', { ...props.value, ...change })
</script>

<template>
  <div class="space-y-1.5">
    <ChoiceField :label="label" :value="value?.move ?? ''" :options="kinds" @change="choose" />
    <template v-if="value">
      <NumberField
        :label="use === 'stay' ? 'One turn' : 'Takes'"
        unit="s"
        :value="value.length / TICKS_PER_SECOND"
        :min="0.05"
        :max="60"
        :step="0.05"
        :digits="2"
        :initial="1"
        @change="set({ length: secondsToTicks($event) })"
      />
      <ChoiceField label="By" :value="value.unit" :options="UNITS" @change="set({ unit: $event })" />
      <template v-if="value.unit !== 'whole' && use === 'pass'">
        <ChoiceField label="Order" :value="value.order" :options="ORDERS" @change="set({ order: $event })" />
        <NumberField
          label="Overlap"
          unit="%"
          :value="value.overlap"
          :min="0"
          :max="100"
          :initial="60"
          @change="set({ overlap: $event })"
        />
      </template>
    </template>
  </div>
</template>
