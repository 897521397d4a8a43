<script setup lang="ts">
import { computed, ref } from 'vue'
import { formatTimecode, parseTimecode, type Rate } from '@dusk/timeline'
import { usePlayer } from '~/features/player/usePlayhead'
import { useNotices } from '~/features/ui/noticesStore'

/** Where the viewer is, as a timecode; another place is typed over it. */
const props = defineProps<{ rate: Rate }>()
const player = usePlayer()
const notices = useNotices()
const typed = ref<string | null>(null)
const now = computed(() => formatTimecode(player.tick.value, props.rate))

function go(): void {
  if (typed.value === null) return
  const tick = parseTimecode(typed.value, props.rate, player.place())
  if (tick === null) notices.say('A place is typed as 0:00:12:05, 1:04, 4.5s, 300f, or +12 frames from here.')
  else player.seek(tick)
  typed.value = null
}
</script>

<template>
  <input
    class="w-36 rounded-md bg-transparent font-mono text-[17px] text-ivory"
    :value="typed ?? now"
    aria-label="Position. Type a place and press Enter."
    title="Type a place: 0:00:12:05, 1:04, 4.5s, 300f, +12"
    @focus="((typed = now), ($event.target as HTMLInputElement).select())"
    @input="typed = ($event.target as HTMLInputElement).value"
    @keydown.enter="(go(), ($event.target as HTMLInputElement).blur())"
    @keydown.esc="((typed = null), ($event.target as HTMLInputElement).blur())"
    @keydown.stop
    @blur="typed = null"
  />
</template>
