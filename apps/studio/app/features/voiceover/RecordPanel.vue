<script setup lang="ts">
import { computed, onMounted } from 'vue'
import { formatSeconds, formatTimecode, TICKS_PER_SECOND } from '@dusk/timeline'
import { usePlayer } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { useDesk } from '~/features/timeline/deskStore'
import { useVoiceover } from './voiceover'

/** Over the viewer while a voice is recorded: what, where to, how loud, and what goes on now. */
const voiceover = useVoiceover()
const project = useProject()
const desk = useDesk()
const player = usePlayer()
const rate = computed(() => project.reel?.format.rate ?? { num: 30, den: 1 })
const place = (tick: number) => formatTimecode(tick, rate.value)
/** What is said of where it will lie. */
const where = computed(() => {
  const range = desk.range && desk.range.to > desk.range.from ? desk.range : null
  const { facts } = voiceover
  const from = facts?.from ?? range?.from ?? player.tick.value
  const to = facts ? facts.to : (range?.to ?? null)
  return to === null ? `from ${place(from)}` : `the marked part, ${place(from)} → ${place(to)}`
})
const decibels = computed(() => (voiceover.level > 0.001 ? 20 * Math.log10(voiceover.level) : -60))
const MARKS = [-48, -36, -24, -12, -6, 0]
const part = (db: number) => Math.min(1, Math.max(0, (db + 60) / 60))
const tone = computed(() => (decibels.value > -0.6 ? 'bg-rose' : decibels.value > -9 ? 'bg-lamp' : 'bg-moss'))
const words = computed(() => {
  if (voiceover.tooLoud) return 'Too loud: move back, or turn the microphone down.'
  if (voiceover.faint) return 'Nothing is heard. Is it switched on, and turned up?'
  return 'Speak as you will: the loudest words should reach −12 to −6.'
})
const COUNTS = [0, 1, 2, 3, 5].map((value) => ({ value, label: value === 0 ? 'None' : `${value} s` }))
const HEARD = [
  { value: 'heard' as const, label: 'Is heard (headphones)' },
  { value: 'silent' as const, label: 'Runs in silence' },
]
const inputs = computed(() => voiceover.inputs.map(({ id, name }) => ({ value: id, label: name })))
const chosen = computed(
  () =>
    inputs.value.find(({ value }) => value === voiceover.preferences.deviceId)?.value ?? inputs.value[0]?.value ?? '',
)
const late = computed(() =>
  voiceover.delay === null ? 'as the browser says' : `${(voiceover.delay / 48).toFixed(0)} ms`,
)
onMounted(() => void voiceover.offerUnfinished())
</script>

<template>
  <div v-if="voiceover.state !== 'off'" class="relative z-20 shrink-0" data-testid="recording">
    <div
      v-if="voiceover.state === 'counting' || voiceover.state === 'recording' || voiceover.state === 'keeping'"
      class="-mt-7 flex h-7 items-center gap-2 bg-ember px-3 text-ground"
      role="status"
    >
      <span class="font-semibold">{{
        voiceover.state === 'keeping' ? 'Keeping' : voiceover.state === 'counting' ? 'Recording soon' : 'Recording'
      }}</span>
      <span class="truncate"
        >{{ voiceover.facts?.name ?? voiceover.track?.name }} onto {{ voiceover.track?.name }}, {{ where }}</span
      >
      <span v-if="voiceover.state !== 'counting'" class="ml-auto font-mono text-[11px]" data-testid="recorded">{{
        formatSeconds(voiceover.seconds * TICKS_PER_SECOND)
      }}</span>
      <button
        v-if="voiceover.state !== 'keeping'"
        class="shrink-0 rounded-sm bg-ground px-2 text-ivory"
        :class="voiceover.state === 'counting' && 'ml-auto'"
        @click="voiceover.stop()"
      >
        {{ voiceover.state === 'counting' ? 'Not yet' : 'Stop and keep' }}
      </button>
    </div>
    <div v-else class="flex h-7 items-center gap-2 bg-raised px-3">
      <span class="font-semibold">Record</span>
      <span class="truncate text-muted">onto {{ voiceover.track?.name }}, {{ where }}</span>
      <button class="ml-auto shrink-0 underline underline-offset-2" @click="voiceover.disarm()">
        Put the microphone away
      </button>
    </div>
    <div class="border-b border-line bg-panel px-3 py-2">
      <div class="flex items-center gap-3">
        <div class="min-w-0 flex-1">
          <div
            class="relative h-2 overflow-hidden bg-line"
            role="meter"
            aria-label="Level of the microphone"
            aria-valuemin="-60"
            aria-valuemax="0"
            :aria-valuenow="Math.round(decibels)"
          >
            <div class="h-full origin-left" :class="tone" :style="{ transform: `scaleX(${part(decibels)})` }" />
          </div>
          <div class="relative h-3">
            <span
              v-for="mark in MARKS"
              :key="mark"
              class="absolute font-mono text-[8px] leading-3 whitespace-nowrap text-muted"
              :class="mark === 0 ? '-translate-x-full' : '-translate-x-1/2'"
              :style="{ left: `${part(mark) * 100}%` }"
              >{{ mark === 0 ? '0 dB' : `−${-mark}` }}</span
            >
          </div>
        </div>
        <button
          v-if="voiceover.state === 'ready' || voiceover.state === 'opening'"
          class="key key-ember shrink-0"
          :disabled="voiceover.state === 'opening'"
          @click="voiceover.start()"
        >
          {{ voiceover.state === 'opening' ? 'Opening the microphone …' : 'Record' }}
        </button>
      </div>
      <p class="text-sm" :class="voiceover.tooLoud ? 'text-rose' : 'text-muted'" role="status">{{ words }}</p>
      <div v-if="voiceover.state === 'ready'" class="mt-1 grid gap-x-4 gap-y-1 @xl:grid-cols-2">
        <ChoiceField
          label="Microphone"
          :value="chosen"
          :options="inputs"
          @change="voiceover.choose($event as string)"
        />
        <ChoiceField
          label="Count-in"
          :value="voiceover.preferences.countIn"
          :options="COUNTS"
          @change="voiceover.set({ countIn: Number($event) })"
        />
        <ChoiceField
          label="The reel"
          :value="voiceover.preferences.heard ? 'heard' : 'silent'"
          :options="HEARD"
          @change="voiceover.set({ heard: $event === 'heard' })"
        />
        <div class="grid grid-cols-[84px_minmax(0,1fr)] items-center gap-2">
          <span class="text-muted">Delay</span>
          <span class="flex items-center justify-between gap-2 text-sm"
            ><span class="truncate" :title="late">{{ late }}</span>
            <button
              class="key key-line h-6 shrink-0 px-2"
              :disabled="voiceover.measuring"
              title="Short sweeps are played from the loudspeakers and listened for"
              @click="voiceover.measureDelay()"
            >
              {{ voiceover.measuring ? 'Listening …' : 'Measure' }}
            </button></span
          >
        </div>
      </div>
    </div>
    <p
      v-if="voiceover.state === 'counting'"
      class="pointer-events-none absolute inset-x-0 top-full z-20 mt-6 text-center font-mono text-6xl text-ember"
      aria-live="assertive"
    >
      {{ voiceover.countdown }}
    </p>
  </div>
  <div
    v-for="entry in voiceover.unfinished"
    :key="entry.facts.id"
    class="z-20 flex shrink-0 items-center gap-3 border-b border-line bg-raised px-3 py-1"
    role="status"
  >
    <span class="min-w-0 truncate"
      >{{ entry.facts.name }}, {{ entry.seconds.toFixed(1) }} s, was being recorded when the page was closed.</span
    >
    <button class="key key-line ml-auto h-6 shrink-0 px-2" @click="voiceover.settle(entry.facts, true)">Keep it</button>
    <button class="key h-6 shrink-0 px-2" @click="voiceover.settle(entry.facts, false)">Throw it away</button>
  </div>
</template>
