<script setup lang="ts">
import { keepSliderKeys } from '~/features/ui/sliderKeys'

/** A gain in decibels as a slider; a double-click is 0 dB. */
defineProps<{ gain: number; label: string }>()
const emit = defineEmits<{ change: [gain: number] }>()
</script>

<template>
  <input
    type="range"
    class="h-1 min-w-0 flex-1 accent-ember"
    min="-48"
    max="24"
    step="0.5"
    :value="gain"
    :aria-label="label"
    :title="`Gain ${gain.toFixed(1)} dB. Double-click: 0 dB.`"
    @change="emit('change', Number(($event.target as HTMLInputElement).value))"
    @dblclick="emit('change', 0)"
    @keydown="keepSliderKeys"
  />
</template>
