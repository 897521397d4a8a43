<script setup lang="ts">
import { computed } from 'vue'
import { TRACK_PARAMS, type Animated, type Track } from '@dusk/timeline'
import PictureStack from '~/features/effects/PictureStack.vue'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'

/**
 * A whole picture track: where everything on it lies, how large, how much of it is seen. Keyframes are in reel time.
 */
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
