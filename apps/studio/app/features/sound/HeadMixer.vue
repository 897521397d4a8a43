<script setup lang="ts">
import { computed } from 'vue'
import { isAnimated, paramAt, TRACK_SOUND_PARAMS, type Track } from '@dusk/timeline'
import { usePlayer } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { keepSliderKeys } from '~/features/ui/sliderKeys'
import { useDesk } from '~/features/timeline/deskStore'
import GainSlider from './GainSlider.vue'
import PeakMeter from './PeakMeter.vue'
import { effectStack } from '~/features/effects/useEffectTarget'

/** What a widened head of a sound track has: its gain, its side, its effects, how loud it is now. */
const props = defineProps<{ track: Track; height: number }>()
const project = useProject()
const desk = useDesk()
const player = usePlayer()
const reading = computed(() => player.meters.value?.tracks[props.track.id] ?? null)
const stack = computed(() => effectStack('sound', project.document?.effects ?? {}, props.track.id))
const panParam = TRACK_SOUND_PARAMS.find(({ key }) => key === 'pan')!
const pan = computed(() => paramAt(panParam, props.track.params, player.tick.value) as number)
</script>

<template>
  <div v-if="track.kind === 'sound'" class="flex h-full min-w-0 flex-1 flex-col justify-center gap-0.5 pr-2">
    <div class="flex items-center gap-2">
      <GainSlider
        :gain="track.gain"
        :label="`Gain of ${track.name}`"
        @change="project.perform({ type: 'setTrack', trackId: track.id, set: { gain: $event } })"
      />
      <span class="w-9 text-right font-mono text-[9px] text-muted">{{ track.gain.toFixed(1) }}</span>
      <input
        type="range"
        class="h-1 w-12 accent-lamp"
        min="-100"
        max="100"
        step="5"
        :value="pan"
        :disabled="isAnimated(track.params.pan ?? 0)"
        :aria-label="`Pan of ${track.name}`"
        :title="`Pan ${pan}. Double-click: the middle.`"
        @change="
          project.perform({
            type: 'setTrackParams',
            trackId: track.id,
            set: { pan: Number(($event.target as HTMLInputElement).value) || null },
          })
        "
        @dblclick="project.perform({ type: 'setTrackParams', trackId: track.id, set: { pan: null } })"
        @keydown="keepSliderKeys"
      />
      <button
        class="h-5 min-w-8 rounded-sm px-1 text-[10px] hover:bg-raised"
        :class="stack.some(({ on }) => on) ? 'text-lamp' : 'text-muted'"
        :aria-label="`Effects of ${track.name}`"
        :title="stack.length > 0 ? `${stack.length} effects` : 'No effects yet'"
        @click="desk.selectTrack(track.id)"
      >
        fx {{ stack.length || '' }}
      </button>
    </div>
    <PeakMeter v-if="height >= 32" :reading="reading" :label="`Level of ${track.name}`" :marks="height >= 56" />
  </div>
</template>
