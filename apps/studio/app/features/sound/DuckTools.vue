<script setup lang="ts">
import { useSound } from './soundStore'
import { useSoundActions } from './useSoundActions'

/** How music gives way to a voice, and doing it: the line that is written can be changed by hand. */
const store = useSound()
const act = useSoundActions()
void store.load()

const FIELDS = [
  { key: 'amount', label: 'Down by', unit: 'dB', min: 1, max: 40, initial: 12, title: 'How much quieter it gets' },
  {
    key: 'attack',
    label: 'Before',
    unit: 'ms',
    min: 10,
    max: 3000,
    initial: 250,
    title: 'How long before the first word',
  },
  { key: 'hold', label: 'Stays for', unit: 'ms', min: 0, max: 5000, initial: 600, title: 'After the last word' },
  {
    key: 'release',
    label: 'Back in',
    unit: 'ms',
    min: 10,
    max: 5000,
    initial: 900,
    title: 'How long it takes to come up',
  },
] as const
</script>

<template>
  <section class="space-y-1.5 border-t border-line py-3" aria-label="Under the voice">
    <h3 class="font-semibold">Under the voice</h3>
    <NumberField
      v-for="field in FIELDS"
      :key="field.key"
      :label="field.label"
      :unit="field.unit"
      :value="store.preferences.duck[field.key]"
      :min="field.min"
      :max="field.max"
      :initial="field.initial"
      :step="field.unit === 'ms' ? 50 : 1"
      :title="field.title"
      @change="store.setDuck({ [field.key]: $event })"
    />
    <button
      class="key key-line"
      title="Writes a level line that goes down wherever a voice is heard; again writes it anew"
      @click="act.duck()"
    >
      Give way to the voice
    </button>
  </section>
</template>
