<script setup lang="ts">
import { meterPart } from './meterPart'
import { usePlayer } from './usePlayhead'

/** How loud left and right are: 60 dB over the length of each bar. */
const player = usePlayer()
/** A peak as a part of the bar. */
const part = (peak: number) => Math.min(1, meterPart(peak))
</script>

<template>
  <div
    class="w-20 min-w-8 space-y-1"
    role="meter"
    aria-label="Level"
    aria-valuemin="-60"
    aria-valuemax="0"
    :aria-valuenow="Math.round(part(Math.max(...player.levels.value)) * 60 - 60)"
  >
    <div v-for="(peak, side) in player.levels.value" :key="side" class="h-1.5 overflow-hidden rounded-full bg-line">
      <div
        class="h-full origin-left will-change-transform"
        :class="peak >= 1 ? 'bg-rose' : peak > 0.5 ? 'bg-lamp' : 'bg-moss'"
        :style="{ transform: `scaleX(${part(peak)})` }"
      />
    </div>
    <div class="relative -mt-0.5 h-2" aria-hidden="true">
      <span
        v-for="mark in [-40, -20, 0]"
        :key="mark"
        class="absolute font-mono text-[7px] leading-2 text-muted"
        :class="mark === 0 ? '-translate-x-full' : '-translate-x-1/2'"
        :style="{ left: `${((mark + 60) / 60) * 100}%` }"
        >{{ mark === 0 ? 'dB' : `−${-mark}` }}</span
      >
    </div>
  </div>
</template>
