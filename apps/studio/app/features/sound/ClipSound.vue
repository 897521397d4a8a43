<script setup lang="ts">
import { computed } from 'vue'
import { CLIP_SOUND_PARAMS, clipEnd, reading, sourceOf, type Animated, type Clip } from '@dusk/timeline'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import DuckTools from './DuckTools.vue'
import EffectStack from './EffectStack.vue'
import LoudnessTools from './LoudnessTools.vue'
import MusicLength from './MusicLength.vue'

/** What the details say of sounds: gain, level, sides, channels, pitch, loudness, effects. */
const props = defineProps<{ sounds: readonly Clip[] }>()
const project = useProject()
const playhead = usePlayhead()

const first = computed(() => props.sounds[0]!)
const ids = computed(() => props.sounds.map((clip) => clip.id))
const isMusic = computed(() => project.document?.tracks[first.value.trackId]?.purpose === 'music')
const streams = computed(() => {
  const source = sourceOf(reading(project.document!), first.value)
  return (source?.sounds ?? []).map((sound, value) => ({
    value,
    label: `${value + 1}: ${sound.title || `${sound.channels} channels`}`,
  }))
})
/** Clip time under the playhead; beyond the clip its nearest moment. */
const time = computed(() => {
  const { value: clip } = first
  const at = Math.min(Math.max(playhead.tick.value, clip.start), clipEnd(clip) - 1)
  return Math.round((clip.head + at - clip.start) / 14_700) * 14_700
})
const goTo = (clipTime: number) => playhead.goTo(first.value.start + clipTime - first.value.head)
const set = (patch: Record<string, Animated | null>) =>
  project.perform({ type: 'setParams', clipIds: ids.value, set: patch as never })
</script>

<template>
  <div>
    <section class="space-y-1.5 border-t border-line py-3">
      <h3 class="font-semibold">Sound</h3>
      <NumberField
        label="Gain"
        unit="dB"
        :value="first.gain"
        :min="-96"
        :max="24"
        :step="0.1"
        :digits="1"
        title="All of the clip louder or quieter; −96 is silence"
        @change="project.perform({ type: 'setClips', clipIds: ids, set: { gain: $event } })"
      />
      <ChoiceField
        v-if="streams.length > 1"
        label="Stream"
        :value="first.stream ?? 0"
        :options="streams"
        @change="project.perform({ type: 'setClips', clipIds: [first.id], set: { stream: $event } })"
      />
    </section>
    <ParamGroups
      :params="CLIP_SOUND_PARAMS"
      :values="first.params"
      :time="time"
      :open="['Level']"
      @change="set"
      @go="goTo"
    />
    <LoudnessTools :sounds="sounds" />
    <MusicLength v-if="isMusic" :sounds="sounds" />
    <DuckTools v-if="isMusic" />
    <EffectStack owner="clip" :owner-id="first.id" :time="time" :heard-on="first.trackId" @go="goTo" />
  </div>
</template>
