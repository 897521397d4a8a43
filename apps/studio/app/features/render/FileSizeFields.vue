<script setup lang="ts">
import { computed } from 'vue'
import { canFit, deliveryOf, type PurposeSettings } from '@dusk/interchange'

/** What decides how large the file of a film becomes. */
const props = defineProps<{
  settings: PurposeSettings
  /** A graphics chip encodes it, whose speed is its own. */
  hardware: boolean
}>()
const emit = defineEmits<{ change: [change: Partial<PurposeSettings>] }>()

type Aim = 'quality' | 'bits' | 'fit'
const SPEEDS = [
  { value: 'quick' as const, label: 'Quick, larger files' },
  { value: 'even' as const, label: 'Even' },
  { value: 'thorough' as const, label: 'Thorough, smaller files' },
]
const delivery = computed(() => deliveryOf(props.settings.format))
const aim = computed<Aim>(() => {
  const { megabytes, megabits } = props.settings
  if (megabytes !== null && canFit(delivery.value)) return 'fit'
  return megabits !== null ? 'bits' : 'quality'
})
const aims = computed(() => [
  { value: 'quality' as const, label: 'As the quality makes it' },
  { value: 'bits' as const, label: 'So many bits a second' },
  ...(canFit(delivery.value) ? [{ value: 'fit' as const, label: 'Fits into so many MB' }] : []),
])
function aimAt(next: Aim): void {
  emit('change', { megabits: next === 'bits' ? 8 : null, megabytes: next === 'fit' ? 25 : null })
}
</script>

<template>
  <ChoiceField
    v-if="!hardware"
    label="Encoder"
    :value="settings.speed"
    :options="SPEEDS"
    @change="emit('change', { speed: $event })"
  />
  <ChoiceField label="File size" :value="aim" :options="aims" @change="aimAt" />
  <NumberField
    v-if="aim === 'fit'"
    label="Into"
    unit="MB"
    :value="settings.megabytes!"
    :min="0.1"
    :max="100000"
    :step="0.1"
    :digits="1"
    :initial="25"
    @change="emit('change', { megabytes: $event })"
  />
  <NumberField
    v-if="aim === 'bits'"
    label="Rate"
    unit="Mbit/s"
    :value="settings.megabits!"
    :min="0.05"
    :max="400"
    :step="0.1"
    :digits="2"
    :initial="8"
    @change="emit('change', { megabits: $event })"
  />
</template>
