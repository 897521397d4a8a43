<script setup lang="ts">
import { ref, watch } from 'vue'
import { meterPart } from '~/features/player/meterPart'
import type { MeterReading } from '~/features/player/messages'

/** A lying meter of two sides, 60 dB long: the mean as a band, peaks paler, the highest of late held. */
// A light at its end stays on once a peak was beyond full scale, until it is clicked or the reel is played again.
const props = defineProps<{ reading: MeterReading | null; label: string; marks?: boolean }>()
const FALL = 1.4
const HOLD = 1500
const MARKS = [-48, -36, -24, -12, -6, 0]

const part = (peak: number) => Math.min(1.05, meterPart(peak))
const shown = ref({ left: 0, right: 0, rms: 0 })
const held = ref({ at: 0, value: 0 })
const clipped = ref(false)
watch(
  () => props.reading,
  (reading, was) => {
    if (reading && !was) clipped.value = false
    if (Math.max(reading?.left ?? 0, reading?.right ?? 0) > 1) clipped.value = true
    const falls = (was: number, now: number) => Math.max(now, was - FALL / 60)
    const [left, right] = [part(reading?.left ?? 0), part(reading?.right ?? 0)]
    shown.value = {
      left: falls(shown.value.left, left),
      right: falls(shown.value.right, right),
      rms: falls(shown.value.rms, part(reading?.rms ?? 0)),
    }
    const highest = Math.max(left, right)
    const now = performance.now()
    if (!reading) held.value = { at: now, value: 0 }
    else if (highest >= held.value.value || now - held.value.at > HOLD) held.value = { at: now, value: highest }
  },
)
const tone = (value: number) => (value >= 1 ? 'bg-rose' : value > 0.8 ? 'bg-lamp' : 'bg-moss')
</script>

<template>
  <div class="flex min-w-0 gap-1">
    <div
      class="relative min-w-0 flex-1"
      role="meter"
      :aria-label="label"
      aria-valuemin="-60"
      aria-valuemax="0"
      :aria-valuenow="Math.round(Math.max(shown.left, shown.right) * 60 - 60)"
    >
      <div v-for="side in ['left', 'right'] as const" :key="side" class="relative mt-px h-1.5 overflow-hidden bg-line">
        <div
          class="h-full origin-left opacity-60"
          :class="tone(shown[side])"
          :style="{ transform: `scaleX(${Math.min(1, shown[side])})` }"
        />
        <div
          class="absolute inset-y-0 left-0 w-full origin-left"
          :class="tone(shown.rms)"
          :style="{ transform: `scaleX(${Math.min(1, shown.rms)})` }"
        />
        <div
          v-if="held.value > 0"
          class="absolute inset-y-0 w-0.5"
          :class="tone(held.value)"
          :style="{ left: `calc(${Math.min(1, held.value) * 100}% - 2px)` }"
        />
      </div>
      <div v-if="marks" class="relative h-3">
        <span
          v-for="mark in MARKS"
          :key="mark"
          class="absolute font-mono text-[8px] leading-3 whitespace-nowrap text-muted"
          :class="mark === 0 ? '-translate-x-full' : '-translate-x-1/2'"
          :style="{ left: `${((mark + 60) / 60) * 100}%` }"
          >{{ mark === 0 ? '0' : `−${-mark}` }}{{ mark === MARKS[0] ? ' dB' : '' }}</span
        >
      </div>
    </div>
    <button
      class="mt-px h-[13px] w-2.5 shrink-0 rounded-[2px]"
      :class="clipped ? 'bg-rose' : 'bg-line'"
      :disabled="!clipped"
      :aria-label="`${label}: ${clipped ? 'was too loud; put the light out' : 'not too loud'}`"
      :title="
        clipped ? 'It was beyond full scale. Click to put the light out.' : 'Lights when it goes beyond full scale'
      "
      :data-clipped="clipped"
      @click.stop="clipped = false"
    />
  </div>
</template>
