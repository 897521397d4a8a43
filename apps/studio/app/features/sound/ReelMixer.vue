<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { usePlayer } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { useDesk } from '~/features/timeline/deskStore'
import GainSlider from './GainSlider.vue'
import PeakMeter from './PeakMeter.vue'
import { useSound } from './soundStore'
import { loudnessSentence, loudnessWords, useLoudness } from './useLoudness'
import { effectStack } from '~/features/effects/useEffectTarget'
import type { Measured } from '~/features/player/mixTasks'

/** The reel's row at the foot of the mixer: gain, meter, loudness now and as a whole, a sentence about it. */
defineProps<{ heads: number }>()
const project = useProject()
const desk = useDesk()
const player = usePlayer()
const store = useSound()
const loudness = useLoudness()
const whole = ref<Measured | null>(null)
const stack = computed(() => effectStack('sound', project.document?.effects ?? {}, project.reelId))
/** The document that was measured: another one is another sound. */
let measured: unknown = null
const stale = computed(() => whole.value !== null && measured !== project.document)
watch(
  () => project.reelId,
  () => (whole.value = null),
)

const lufs = (value: number | null | undefined) =>
  value === null || value === undefined ? '—' : `${value < 0 ? '−' : ''}${Math.abs(value).toFixed(1)}`
const peak = computed(() => {
  const value = player.meters.value?.truePeak ?? 0
  return value > 1e-6 ? lufs(20 * Math.log10(value)) : '—'
})

async function measure(): Promise<void> {
  const range = desk.range ?? undefined
  const before = project.document
  const found = await loudness.measure(range ? { range: { from: range.from, to: range.to } } : {})
  if (!found) return
  whole.value = found
  measured = before
}
</script>

<template>
  <section
    v-if="store.mixing && project.reel"
    class="flex shrink-0 items-center gap-3 border-t border-line bg-panel pr-3 pl-3"
    aria-label="Mix of the reel"
    data-testid="reel-mixer"
    :data-integrated="whole?.integrated"
    :data-true-peak="whole?.truePeak"
  >
    <div class="flex h-11 shrink-0 flex-col justify-center gap-0.5" :style="{ width: `${heads - 12}px` }">
      <div class="flex items-center gap-2">
        <span class="w-24 truncate text-sm font-semibold">Reel</span>
        <GainSlider
          :gain="project.reel.gain"
          label="Gain of the reel"
          @change="project.perform({ type: 'setReel', reelId: project.reelId, set: { gain: $event } })"
        />
        <span class="w-12 text-right font-mono text-[10px] text-muted">{{ project.reel.gain.toFixed(1) }} dB</span>
        <button
          class="h-5 min-w-8 rounded-sm px-1 text-[10px] hover:bg-raised"
          :class="stack.some(({ on }) => on) ? 'text-lamp' : 'text-muted'"
          aria-label="Effects of the reel"
          title="Effects on all that is heard"
          @click="desk.select([], null)"
        >
          fx {{ stack.length || '' }}
        </button>
      </div>
      <PeakMeter :reading="player.meters.value?.reel ?? null" label="Level of the reel" marks />
    </div>
    <dl class="flex shrink-0 gap-3 font-mono text-[10px]">
      <div
        v-for="[name, value, hint] in [
          ['now', lufs(player.meters.value?.momentary), 'Momentary loudness: the last 0.4 s, LUFS'],
          ['3 s', lufs(player.meters.value?.shortTerm), 'Short-term loudness: the last 3 s, LUFS'],
          ['whole', lufs(whole?.integrated), 'Loudness of the whole reel or the marked range, LUFS'],
          ['peak', peak, 'True peak just now, dB'],
        ]"
        :key="name"
        :title="hint"
      >
        <dt class="text-muted">{{ name }}</dt>
        <dd :class="name === 'whole' && stale && 'text-muted'">{{ value }}</dd>
      </div>
    </dl>
    <p class="min-w-0 flex-1 truncate text-sm text-muted" role="status">
      <template v-if="loudness.busy.value">Measuring, {{ Math.round(loudness.part.value * 100) }} %</template>
      <template v-else-if="whole"
        ><span :title="loudnessWords(whole)">{{ loudnessSentence(whole.integrated, whole.truePeak) }}</span>
        {{ stale ? 'Changed since.' : '' }}</template
      >
      <template v-else>Not measured yet.</template>
    </p>
    <button class="key key-line h-6 text-sm" :disabled="loudness.busy.value" @click="measure">
      {{ desk.range ? 'Measure the range' : 'Measure' }}
    </button>
  </section>
</template>
