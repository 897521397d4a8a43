<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Clip } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { SOUND_DEFAULTS } from '~~/shared/preferences'
import { useSound } from './soundStore'
import SaveSound from './SaveSound.vue'
import { loudnessWords, useLoudness } from './useLoudness'

/** Measures the selected sounds, and brings them to a loudness, to each other, or up to a peak. */
const props = defineProps<{ sounds: readonly Clip[] }>()
const project = useProject()
const store = useSound()
const loudness = useLoudness()
void store.load()
const ids = computed(() => props.sounds.map((clip) => clip.id))
const purpose = computed(() => loudness.purposeOf(ids.value[0]!))
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
      :label="`Target, ${purpose}`"
      unit="LUFS"
      :value="store.preferences.targets[purpose]"
      :min="-40"
      :max="-5"
      :step="1"
      :initial="SOUND_DEFAULTS.targets[purpose]"
      title="For all tracks of this purpose. Upload places play a whole video at −14 or −16, broadcast at −23"
      @change="store.setTarget(purpose, $event)"
    />
    <div class="flex flex-wrap gap-1.5">
      <button class="key key-line" :disabled="loudness.busy.value" @click="measure">Measure</button>
      <button
        class="key key-line"
        :disabled="loudness.busy.value"
        title="Changes the gain of each, so that it is as loud as the target of its track’s purpose"
        @click="loudness.bringToTarget(ids)"
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
    <SaveSound />
    <p v-if="loudness.busy.value" class="text-sm text-muted" role="status">
      Measuring, {{ Math.round(loudness.part.value * 100) }} %
    </p>
    <p v-else-if="result" class="text-sm text-muted" role="status">{{ result }}</p>
  </section>
</template>
