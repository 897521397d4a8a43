<script setup lang="ts">
import { REEL_SOUND_PARAMS } from '@dusk/timeline'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import EffectStack from './EffectStack.vue'
import SaveSound from './SaveSound.vue'

/** All that is heard of the reel: how loud, through which effects. */
const project = useProject()
const playhead = usePlayhead()
</script>

<template>
  <section v-if="project.reel" class="border-t border-line py-3" aria-label="Sound of the reel">
    <h3 class="pb-1.5 font-semibold">Sound of the reel</h3>
    <NumberField
      label="Gain"
      unit="dB"
      :value="project.reel.gain"
      :min="-96"
      :max="24"
      :step="0.1"
      :digits="1"
      @change="project.perform({ type: 'setReel', reelId: project.reelId, set: { gain: $event } })"
    />
    <ParamGroups
      :params="REEL_SOUND_PARAMS"
      :values="project.reel.params"
      :time="playhead.tick.value"
      @change="project.perform({ type: 'setReelParams', reelId: project.reelId, set: $event as never })"
      @go="playhead.goTo($event)"
    />
    <SaveSound class="py-1.5" />
    <EffectStack
      owner="reel"
      :owner-id="project.reelId"
      :time="playhead.tick.value"
      :heard-on="project.reelId"
      @go="playhead.goTo($event)"
    />
  </section>
</template>
