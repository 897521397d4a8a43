<script setup lang="ts">
import { computed } from 'vue'
import Target from '@lucide/vue/dist/esm/icons/crosshair.mjs'
import type { Track } from '@dusk/timeline'
import { useAim } from './aimStore'

/** Says that footage coming in goes to this track. */
const props = defineProps<{ track: Track }>()
const aim = useAim()
const aimed = computed(() => aim.trackOf(props.track.kind)?.id === props.track.id)
const what = computed(() => (props.track.kind === 'picture' ? 'Pictures' : 'Sounds'))
</script>

<template>
  <HeadSwitch
    :label="`${what} that come in go to ${track.name}`"
    :title="
      aimed
        ? `${what} that come in go here. Click: they find a track by themselves again.`
        : `${what} that come in go here`
    "
    :pressed="aimed"
    tone="text-ember"
    @click="aim.toggle(track)"
  >
    <Target :size="14" />
  </HeadSwitch>
</template>
