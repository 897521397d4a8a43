<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import type { FileDetails } from '@dusk/media'
import { api } from '~/features/ui/api'
import { codecName, formatBytes, formatWait } from '~/features/ui/sizes'
import { offBy } from './renderTime'
import type { RenderRow } from './renderRow'

/** What a finished file holds: its streams, pictures along it, and how bits and loudness go. */
const props = defineProps<{ render: RenderRow; film: boolean }>()
const details = ref<FileDetails | null>(null)
const wrong = ref<string | null>(null)

/** Pictures that lie beside each other in the strip: the place is kept until it is there. */
const STRIP_PICTURES = 8
const KINDS = { picture: 'Picture', sound: 'Sound', words: 'Words' }
/** What was told before, and how it came out. */
const expected = computed(() => {
  const { settings, report } = props.render
  if (!settings.expected || !report) return null
  const { bytes, seconds, made = 0 } = settings.expected
  const said = [`${formatBytes(bytes)} were expected, it is ${offBy(bytes, report.bytes)}`]
  // With other parts there than were counted on it says nothing.
  if (seconds !== null && report.reused === made)
    said.push(`${formatWait(seconds)} to make it, it took ${offBy(seconds, report.took)}`)
  return `${said.join('; ')}.`
})
const seconds = computed(() => props.render.report?.seconds ?? details.value?.bitrate.length ?? 0)
const bits = (value: number) => `${formatBytes(value / 8)}/s`
const loud = (value: number) => `${value.toFixed(1).replace('-', '−')} LUFS`

onMounted(async () => {
  try {
    details.value = await api<FileDetails>(`/renders/${props.render.id}/details`)
  } catch (error) {
    wrong.value = (error as Error).message
  }
})
</script>

<template>
  <div class="mt-3 space-y-3">
    <img
      v-if="film"
      :src="`/api/renders/${render.id}/strip`"
      alt="Pictures along the film"
      class="w-full rounded-sm bg-ground"
      :style="{ aspectRatio: STRIP_PICTURES * (render.settings.width / render.settings.height) }"
    />
    <p v-if="wrong" class="text-rose">{{ wrong }}</p>
    <p v-else-if="!details" class="text-muted">Looking into the file</p>
    <template v-else>
      <dl class="grid grid-cols-[80px_minmax(0,1fr)] gap-y-1 text-sm">
        <template v-for="(stream, i) in details.streams" :key="i">
          <dt class="text-muted">{{ KINDS[stream.kind] }}</dt>
          <dd>{{ codecName(stream.codec) }}{{ stream.words ? ` · ${stream.words}` : '' }}</dd>
        </template>
      </dl>
      <p v-if="expected" class="text-sm text-muted">{{ expected }}</p>
      <div class="grid gap-4 sm:grid-cols-2">
        <CurveChart
          v-if="details.bitrate.length > 1"
          label="Data"
          :values="details.bitrate"
          :seconds="seconds"
          :show="bits"
          :floor="0"
        />
        <CurveChart
          v-if="details.loudness && details.loudness.length > 1"
          label="Loudness"
          :values="details.loudness"
          :seconds="seconds"
          :show="loud"
          :mark="render.settings.loudness ?? null"
        />
      </div>
    </template>
  </div>
</template>
