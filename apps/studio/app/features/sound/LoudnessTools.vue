<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Clip } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { useSound } from './soundStore'
import { loudnessWords, useLoudness } from './useLoudness'

/** Measures the selected sounds, and brings them to a loudness, to each other, or up to a peak. */
const props = defineProps<{ sounds: readonly Clip[] }>()
const project = useProject()
const store = useSound()
const loudness = useLoudness()
void store.load()
const ids = computed(() => props.sounds.map((clip) => clip.id))
const result = ref<string | null>(null)
watch([ids, () => project.document?.effects], () => (result.value = null))

async function measure(): Promise<void> {
  const found = await loudness.measure({ clipIds: ids.value })
  if (found) result.value = loudnessWords(found)
}
</script>

<template>
  <section class="space-y-1.5 border-t border-line py-3" aria-label="Loudness">
    <h3 class="font-semibold">Loudness</h3>
    <NumberField
      label="Target"
      unit="LUFS"
      :value="store.preferences.target"
      :min="-40"
      :max="-5"
      :step="1"
      :initial="-16"
      title="−14 and −16 are what most upload places play at, −23 is broadcast"
      @change="store.set({ target: $event })"
    />
    <div class="flex flex-wrap gap-1.5">
      <button class="key key-line" :disabled="loudness.busy.value" @click="measure">Measure</button>
      <button
        class="key key-line"
        :disabled="loudness.busy.value"
        title="Changes the gain of each, so that it is as loud as the target"
        @click="loudness.bringTo(ids, store.preferences.target)"
      >
        To the target
      </button>
      <button
        v-if="sounds.length > 1"
        class="key key-line"
        :disabled="loudness.busy.value"
        title="Changes the gain of the others, so that they are as loud as the first"
        @click="loudness.matchFirst(ids)"
      >
        Like the first
      </button>
      <button
        class="key key-line"
        :disabled="loudness.busy.value"
        title="As loud as it gets without clipping: the highest peak at −1 dB"
        @click="loudness.bringPeakTo(ids, -1)"
      >
        Peak to −1 dB
      </button>
    </div>
    <p v-if="loudness.busy.value" class="text-sm text-muted" role="status">
      Measuring, {{ Math.round(loudness.part.value * 100) }} %
    </p>
    <p v-else-if="result" class="text-sm text-muted" role="status">{{ result }}</p>
  </section>
</template>
