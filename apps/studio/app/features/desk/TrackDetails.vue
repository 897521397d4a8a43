<script setup lang="ts">
import { TRACK_PARAMS, type Track } from '@dusk/timeline'
import PictureStack from '~/features/effects/PictureStack.vue'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useTrackParams } from '~/features/params/useTrackParams'

/**
 * A whole picture track: where everything on it lies, how large, how much of it is seen. Keyframes are in reel time.
 */
const props = defineProps<{ track: Track }>()
const playhead = usePlayhead()
const { clips, change } = useTrackParams(() => props.track)
</script>

<template>
  <div>
    <DetailsHeading :name="track.name" :what="`track, ${clips}`" />
    <p class="py-2 text-muted">Goes for everything on this track, on top of what each clip has of its own.</p>
    <ParamGroups
      :params="TRACK_PARAMS"
      :values="track.params"
      :time="playhead.tick.value"
      :open="['Place', 'Mix']"
      @change="change"
      @go="playhead.goTo($event)"
    />
    <PictureStack owner="track" :owner-id="track.id" :time="playhead.tick.value" @go="playhead.goTo($event)" />
  </div>
</template>
