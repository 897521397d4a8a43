<script setup lang="ts">
import { computed } from 'vue'
import {
  clipSourceRange,
  formatRate,
  formatSeconds,
  isBackwards,
  madeFactor,
  madeName,
  madeSegments,
  silencedBySpeed,
  speedAt,
  ticksPerFrame,
  TIME_PARAMS,
  type Animated,
  type Clip,
} from '@dusk/timeline'
import { typedLength } from '~/features/ui/typedLength'
import { useProject } from '~/features/project/projectStore'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { rateMisfit } from './rateFit'
import { layCurve, SPEED_CURVES } from './curves'
import SpeedCurvePlot from './SpeedCurvePlot.vue'
import SpeedTile from './SpeedTile.vue'
import { useSpeedActions } from './useSpeedActions'

/** How fast the selected clips play: by factor, by length, backwards, along a curve. */
const props = defineProps<{ clips: readonly Clip[] }>()
const project = useProject()
const desk = useDesk()
const notices = useNotices()
const act = useSpeedActions()

const first = computed(() => props.clips.find((clip) => clip.stream === null) ?? props.clips[0]!)
const percent = computed(() => {
  const { map, head, length } = first.value
  if (map.kind === 'constant') return Math.abs(map.speed) * 100
  const { from, to } = clipSourceRange(first.value)
  return map.kind === 'freeze' ? 0 : ((to - from) / length) * 100 || Math.abs(speedAt(map, head)) * 100
})
const backwards = computed(() => isBackwards(first.value.map))
const ramp = computed(() => (first.value.map.kind === 'ramp' ? first.value.map : null))
const silenced = computed(() => props.clips.some((clip) => clip.stream !== null && silencedBySpeed(clip)))
const isPicture = computed(() => first.value.stream === null)
const rate = computed(() => project.reel?.format.rate ?? { num: 30, den: 1 })

/** How far the frames are that are made between those of these clips, in words; `null` where none are wanted. */
const making = computed(() => {
  const { document, sources } = project
  const clip = first.value
  if (!document || clip.kind !== 'media' || clip.params.slowMotion !== 'made') return null
  const picture = document.assets[clip.assetId]?.picture
  if (picture?.variable) return 'This footage has no steady rate, so its frames are blended.'
  if (madeFactor(document, clip) === null) return 'It has frames enough: none need be made.'
  const parts = madeSegments({ ...document, clips: { [clip.id]: clip } }).map(
    (part) => sources[part.assetId]?.made[madeName(part)],
  )
  const failed = parts.some((entry) => entry?.state === 'failed')
  if (failed) return 'Some frames could not be made; those are blended.'
  const done = parts.reduce((sum, entry) => sum + (entry?.state === 'ready' ? 1 : (entry?.progress ?? 0)), 0)
  if (parts.every((entry) => entry?.state === 'ready')) return 'The frames between are made.'
  return `Making the frames between, ${Math.floor((done / parts.length) * 100)} %. Until then they are blended.`
})

const footage = computed(() => {
  const clip = first.value
  return (clip.kind === 'media' && isPicture.value && project.document?.assets[clip.assetId]?.picture?.rate) || null
})
/** Whether the reel has more frames than the clip has of its own. */
const sparse = computed(() => {
  if (!footage.value) return percent.value < 100
  return ticksPerFrame(footage.value) / (percent.value / 100) > ticksPerFrame(rate.value) * 1.002
})
const misfit = computed(() => {
  const words = footage.value && percent.value === 100 && rateMisfit(footage.value, rate.value)
  if (!words || (first.value.params.slowMotion ?? 'repeat') !== 'repeat') return null
  return `${formatRate(footage.value!)} frames/s in a reel of ${formatRate(rate.value)}: ${words}.`
})

const type = (value: number) => act.set({ speed: (backwards.value ? -1 : 1) * (value / 100) })
function typeLength(event: Event): void {
  const input = event.target as HTMLInputElement
  const length = typedLength(input.value, rate.value, first.value.length)
  if (length === null || length <= 0) notices.say('A length is typed as 2.5s, 60f, 1:04, or +12 frames.')
  else if (length !== first.value.length) act.set({ length })
  input.value = formatSeconds(first.value.length)
}
function curve(points: Parameters<typeof layCurve>[0] | null): void {
  const { from, to } = clipSourceRange(first.value)
  project.perform({
    type: 'setSpeedCurve',
    clipId: first.value.id,
    points: points ? layCurve(points, first.value.head, to - from) : [],
    scope: desk.scope,
    linked: desk.linked,
  })
}
const setParams = (patch: Record<string, Animated | null>) =>
  project.perform({
    type: 'setParams',
    clipIds: props.clips.filter((clip) => clip.stream === null).map((clip) => clip.id),
    set: patch as never,
  })
</script>

<template>
  <section class="space-y-1.5 border-t border-line py-3" aria-label="Speed">
    <h3 class="font-semibold">Speed</h3>
    <NumberField
      :label="ramp ? 'On average' : 'Speed'"
      unit="%"
      :value="percent"
      :min="5"
      :max="10000"
      :step="5"
      :digits="percent % 1 ? 1 : 0"
      :initial="100"
      title="100 % is as it was filmed; 5 % to 10,000 %"
      @change="type"
    />
    <label class="grid grid-cols-[84px_minmax(0,1fr)] items-center gap-2">
      <span class="text-muted">Plays for</span>
      <input
        class="field font-mono text-[11px]"
        :value="formatSeconds(first.length)"
        title="The wished length: 2.5s, 60f, 1:04. The speed follows from it."
        aria-label="Plays for"
        @change="typeLength"
        @keydown.enter="($event.target as HTMLInputElement).blur()"
        @keydown.stop
      />
    </label>
    <div class="flex flex-wrap gap-1.5">
      <button
        class="key key-line"
        :class="backwards && 'text-lamp'"
        :aria-pressed="backwards"
        @click="act.set({ reverse: true })"
      >
        Backwards
      </button>
      <button class="key key-line" title="So that it just fills the gap behind it" @click="act.fitGap()">
        Fill the gap
      </button>
      <button
        v-if="desk.range"
        class="key key-line"
        title="Only the marked part of the clip, at half its speed; change it then like any other"
        @click="act.partOnly(0.5)"
      >
        Slow the marked part
      </button>
    </div>
    <p v-if="silenced" class="text-sm text-muted">
      The sound is silent below a quarter and beyond four times its speed, unless “Heard at any speed” is on.
    </p>
    <SpeedCurvePlot v-if="ramp" :clip="first" />
    <ul class="grid grid-cols-3 gap-1.5" aria-label="Ready-made speed curves">
      <SpeedTile
        v-for="entry in SPEED_CURVES"
        :key="entry.id"
        :curve="entry"
        :clip="isPicture && first.kind === 'media' ? first : null"
        @use="curve(entry)"
      />
    </ul>
    <button v-if="ramp" class="key h-6 px-1.5 text-sm text-muted" @click="curve(null)">One speed for all of it</button>
    <p v-if="misfit" class="text-sm text-muted">{{ misfit }}</p>
    <ParamGroups
      v-if="isPicture && sparse"
      :params="TIME_PARAMS.map((param) => ({ ...param, group: undefined }))"
      :values="first.params"
      :time="null"
      @change="setParams"
    />
    <p v-if="isPicture && making" class="text-sm text-muted" role="status">{{ making }}</p>
  </section>
</template>
