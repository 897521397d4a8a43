<script setup lang="ts">
import { TRACK_SOUND_PARAMS, type Track } from '@dusk/timeline'
import { useTrackParams } from '~/features/params/useTrackParams'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import EffectStack from './EffectStack.vue'

/** A whole sound track: how loud, to which side, through which effects. */
const props = defineProps<{ track: Track }>()
const project = useProject()
const playhead = usePlayhead()
const { clips, change } = useTrackParams(() => props.track)
</script>

<template>
  <div>
    <DetailsHeading :name="track.name" :what="`track, ${clips}`" />
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
