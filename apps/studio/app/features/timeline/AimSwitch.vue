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
const hint = computed(() =>
  aimed.value
    ? `${what.value} that come in go here. Click: they find a track by themselves again.`
    : `${what.value} that come in go here`,
)
</script>

<template>
  <button
    class="-ml-1 grid h-6 w-5 shrink-0 place-items-center"
    :class="aimed ? 'text-ember' : 'calm:invisible text-muted opacity-50 hover:text-ivory hover:opacity-100'"
    :aria-pressed="aimed"
    :aria-label="`${what} that come in go to ${track.name}`"
    :title="hint"
    @click="aim.toggle(track)"
  >
    <Target :size="13" />
  </button>
</template>
