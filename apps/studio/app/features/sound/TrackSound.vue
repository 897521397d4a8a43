<script setup lang="ts">
import { computed } from 'vue'
import { TRACK_SOUND_PARAMS, type Animated, type Track } from '@dusk/timeline'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import EffectStack from './EffectStack.vue'

/** A whole sound track: how loud, to which side, through which effects. */
const props = defineProps<{ track: Track }>()
const project = useProject()
const playhead = usePlayhead()
const clips = computed(
  () => Object.values(project.document!.clips).filter((clip) => clip.trackId === props.track.id).length,
)
const change = (set: Record<string, Animated | null>) =>
  project.perform({ type: 'setTrackParams', trackId: props.track.id, set: set as never })
</script>

<template>
  <div>
    <header class="flex items-baseline gap-2 border-b border-line pb-2">
      <h2 class="truncate font-display text-lg font-semibold">{{ track.name }}</h2>
      <span class="ml-auto shrink-0 text-sm text-muted">track, {{ clips }} {{ clips === 1 ? 'clip' : 'clips' }}</span>
    </header>
    <NumberField
      class="pt-3"
      label="Gain"
      unit="dB"
      :value="track.gain"
      :min="-96"
      :max="24"
      :step="0.1"
      :digits="1"
      @change="project.perform({ type: 'setTrack', trackId: track.id, set: { gain: $event } })"
    />
    <ParamGroups
      :params="TRACK_SOUND_PARAMS"
      :values="track.params"
      :time="playhead.tick.value"
      :open="['Level']"
      @change="change"
      @go="playhead.goTo($event)"
    />
    <EffectStack
      owner="track"
      :owner-id="track.id"
      :time="playhead.tick.value"
      :heard-on="track.id"
      @go="playhead.goTo($event)"
    />
  </div>
</template>
