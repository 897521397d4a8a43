<script setup lang="ts">
import { computed } from 'vue'
import Mic from '@lucide/vue/dist/esm/icons/mic.mjs'
import type { Track } from '@dusk/timeline'
import { usePlayer } from '~/features/player/usePlayhead'
import HeadSwitch from '~/features/timeline/HeadSwitch.vue'
import { useVoiceover } from './voiceover'

/** In the head of a sound track: a voice is recorded onto it. */
const props = defineProps<{ track: Track }>()
const voiceover = useVoiceover()
const player = usePlayer()
const here = computed(() => voiceover.trackId === props.track.id && voiceover.state !== 'off')

function press(): void {
  if (voiceover.state === 'recording' || voiceover.state === 'counting') void voiceover.stop()
  else if (here.value) voiceover.disarm()
  else void voiceover.arm(player, props.track.id)
}
</script>

<template>
  <HeadSwitch
    v-if="track.kind === 'sound'"
    :label="`Record onto ${track.name}`"
    :title="here ? 'Put the microphone away' : 'Record a voice onto this track while the reel plays'"
    :pressed="here"
    tone="text-ember"
    :class="track.purpose !== 'voice' && !here && 'w-0 overflow-hidden group-hover:w-6 focus-visible:w-6'"
    @click="press"
  >
    <Mic :size="14" />
  </HeadSwitch>
</template>
