<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { clipEnd, TICKS_PER_SECOND, type Clip, type MediaClip } from '@dusk/timeline'
import { useDesk } from '~/features/timeline/deskStore'
import { useMusicLength } from './useMusicLength'

/** Music made as long as something else is, without being cut off. */
const props = defineProps<{ sounds: readonly Clip[] }>()
const desk = useDesk()
const music = useMusicLength()

/** The stretches of one source that it was put together from; `null` for anything else. */
const stretches = computed((): MediaClip[] | null => {
  const [first] = props.sounds
  if (first?.kind !== 'media') return null
  const all = [...props.sounds].sort((a, b) => a.start - b.start)
  const one = all.every(
    (clip) =>
      clip.kind === 'media' &&
      clip.assetId === first.assetId &&
      clip.trackId === first.trackId &&
      clip.map.kind === 'constant' &&
      clip.map.speed === 1 &&
      (all.length === 1 || (clip.group !== null && clip.group === first.group)),
  )
  return one ? (all as MediaClip[]) : null
})
const now = computed(() => (stretches.value ? clipEnd(stretches.value.at(-1)!) - stretches.value[0]!.start : 0))
const wanted = ref(0)
watch(now, (length) => (wanted.value = length / TICKS_PER_SECOND), { immediate: true })
const pictures = computed(() => (stretches.value ? music.toPicturesEnd(stretches.value[0]!) : 0))
const marked = computed(() => (desk.range ? desk.range.to - desk.range.from : 0))

async function bring(length: number): Promise<void> {
  if (stretches.value) await music.bringTo(stretches.value, Math.round(length))
}
</script>

<template>
  <section v-if="stretches" class="space-y-1.5 border-t border-line py-3" aria-label="Music to a length">
    <h3 class="font-semibold">To a length</h3>
    <NumberField
      label="As long as"
      unit="s"
      :value="wanted"
      :min="1"
      :max="86400"
      :step="1"
      :digits="2"
      title="Stretches are left out or begun again where the music sounds alike, at its bars"
      @change="wanted = $event"
    />
    <div class="flex flex-wrap gap-1.5">
      <button class="key key-line" :disabled="music.part.value !== null" @click="bring(wanted * TICKS_PER_SECOND)">
        Bring it to that
      </button>
      <button
        v-if="pictures > TICKS_PER_SECOND"
        class="key key-line"
        :disabled="music.part.value !== null"
        title="So that it ends where the pictures of the reel end"
        @click="bring(pictures)"
      >
        To the end of the pictures
      </button>
      <button
        v-if="marked > TICKS_PER_SECOND"
        class="key key-line"
        :disabled="music.part.value !== null"
        @click="bring(marked)"
      >
        As long as the marked part
      </button>
    </div>
    <p v-if="music.part.value !== null" class="text-sm text-muted" role="status">
      Listening for places that sound alike, {{ Math.round(music.part.value * 100) }} %
    </p>
  </section>
</template>
