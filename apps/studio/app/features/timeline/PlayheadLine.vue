<script setup lang="ts">
import { computed, ref } from 'vue'
import { formatTimecode, type Rate } from '@dusk/timeline'
import { useFollowPlay, usePlayhead } from '~/features/player/usePlayhead'
import { useDesk } from './deskStore'
import { useSource } from '~/features/player/sourceStore'

/** The line under which the viewer's picture lies, with its time. */
defineProps<{ rate: Rate }>()
const desk = useDesk()
const source = useSource()
const playhead = usePlayhead()
const line = ref<HTMLElement | null>(null)
const x = computed(() => desk.toX(playhead.tick.value))
// While a source plays the reel's playhead waits.
useFollowPlay(line, (tick) => desk.toX(source.assetId ? source.parked : tick))
</script>

<template>
  <div
    ref="line"
    class="pointer-events-none absolute inset-y-0 z-10 w-px bg-ivory will-change-transform"
    :style="{ transform: `translateX(${x}px)` }"
    data-testid="playhead"
  >
    <span
      :class="[
        'absolute top-0.5 left-0 -translate-x-1/2 rounded-md bg-ember px-1.5',
        'font-mono text-[10px] leading-[18px] font-semibold text-ground',
      ]"
      :style="{ marginLeft: `${Math.max(0, 36 - x)}px` }"
      >{{ formatTimecode(playhead.tick.value, rate).replace(/^0:0?/, '') }}</span
    >
  </div>
</template>
