<script setup lang="ts">
import { computed } from 'vue'
import {
  clipEnd,
  formatRate,
  formatSeconds,
  formatTimecode,
  REEL_RATES,
  sameRate,
  type Clip,
  type CommandInput,
  type Fit,
} from '@dusk/timeline'
import { useDesk } from '~/stores/desk'
import { useProject } from '~/stores/project'
import { SHAPES, SHORT_SIDES, sizeFor } from '~/lib/sizes'

const project = useProject()
const desk = useDesk()

const clips = computed(() =>
  [...desk.selection].map((id) => project.document?.clips[id]).filter((clip): clip is Clip => !!clip),
)
const pictures = computed(() => clips.value.filter((clip) => clip.stream === null))
const sounds = computed(() => clips.value.filter((clip) => clip.stream !== null))
const first = computed(() => pictures.value[0] ?? sounds.value[0])
const asset = computed(() => (first.value ? project.document?.assets[first.value.assetId] : undefined))
const rate = computed(() => project.reel?.format.rate ?? { num: 30, den: 1 })

type Settings = Extract<CommandInput, { type: 'setClips' }>['set']
const set = (list: readonly Clip[], values: Settings) =>
  project.perform({ type: 'setClips', clipIds: list.map((clip) => clip.id), set: values })

const FITS: { value: Fit | 'reel'; label: string }[] = [
  { value: 'reel', label: 'As the reel does' },
  { value: 'fit', label: 'Whole picture' },
  { value: 'fill', label: 'Fill, edges cut' },
  { value: 'stretch', label: 'Stretch' },
]
const LABELS = ['lamp', 'ember', 'rose', 'dusk', 'moss', 'plum'] as const

const sizes = computed(() => {
  const { width, height } = project.reel!.format
  const list = SHAPES.flatMap((shape) =>
    SHORT_SIDES.slice(1).map((side) => ({ ...sizeFor(shape, side), name: shape.name })),
  )
  if (!list.some((entry) => entry.width === width && entry.height === height))
    list.unshift({ width, height, name: 'Own' })
  return list.map((entry) => ({
    value: `${entry.width}x${entry.height}`,
    label: `${entry.name} ${entry.width} × ${entry.height}`,
  }))
})

function setFormat(change: { size?: string; rate?: number }): void {
  const { format } = project.reel!
  const [width, height] = change.size ? change.size.split('x').map(Number) : [format.width, format.height]
  project.perform({
    type: 'setReel',
    reelId: project.reelId,
    set: {
      format: {
        width: width!,
        height: height!,
        rate: change.rate === undefined ? format.rate : REEL_RATES[change.rate]!,
      },
    },
  })
}
</script>

<template>
  <aside class="h-full overflow-auto bg-panel p-3" aria-label="Details">
    <template v-if="first && asset">
      <header class="flex items-baseline gap-2 border-b border-line pb-2">
        <h2 class="truncate font-display text-lg font-semibold">{{ first.name ?? asset.name }}</h2>
        <span class="ml-auto shrink-0 text-sm text-muted">{{
          clips.length > 1 ? `${clips.length} clips` : asset.kind
        }}</span>
      </header>
      <dl class="grid grid-cols-[84px_minmax(0,1fr)] gap-x-2 gap-y-0.5 py-3 text-muted">
        <dt>Begins</dt>
        <dd class="font-mono text-[11px] leading-5 text-ivory">{{ formatTimecode(first.start, rate) }}</dd>
        <dt>Ends</dt>
        <dd class="font-mono text-[11px] leading-5 text-ivory">{{ formatTimecode(clipEnd(first), rate) }}</dd>
        <dt>Length</dt>
        <dd class="font-mono text-[11px] leading-5 text-ivory">{{ formatSeconds(first.length) }}</dd>
      </dl>
      <section v-if="pictures[0]" class="space-y-1.5 border-t border-line py-3">
        <h3 class="font-semibold">Place</h3>
        <NumberField
          label="Across"
          unit="px"
          :value="pictures[0].place.x"
          :min="-32768"
          :max="32768"
          @change="set(pictures, { place: { x: $event } })"
        />
        <NumberField
          label="Down"
          unit="px"
          :value="pictures[0].place.y"
          :min="-32768"
          :max="32768"
          @change="set(pictures, { place: { y: $event } })"
        />
        <NumberField
          label="Size"
          unit="%"
          :value="pictures[0].place.scale * 100"
          :min="1"
          :max="10000"
          :initial="100"
          :digits="1"
          @change="set(pictures, { place: { scale: $event / 100 } })"
        />
        <NumberField
          label="Turn"
          unit="°"
          :value="pictures[0].place.turn"
          :min="-3600"
          :max="3600"
          :digits="1"
          @change="set(pictures, { place: { turn: $event } })"
        />
        <NumberField
          label="Opacity"
          unit="%"
          :value="pictures[0].opacity * 100"
          :min="0"
          :max="100"
          :initial="100"
          @change="set(pictures, { opacity: $event / 100 })"
        />
        <ChoiceField
          label="Fitting"
          :value="pictures[0].fit ?? 'reel'"
          :options="FITS"
          @change="set(pictures, { fit: $event === 'reel' ? null : $event })"
        />
      </section>
      <section v-if="sounds[0]" class="space-y-1.5 border-t border-line py-3">
        <h3 class="font-semibold">Sound</h3>
        <NumberField
          label="Level"
          unit="dB"
          :value="sounds[0].gain"
          :min="-96"
          :max="24"
          :step="0.1"
          :digits="1"
          @change="set(sounds, { gain: $event })"
        />
        <ChoiceField
          v-if="(project.document?.assets[sounds[0].assetId]?.sounds.length ?? 0) > 1"
          label="Stream"
          :value="sounds[0].stream ?? 0"
          :options="
            project.document!.assets[sounds[0].assetId]!.sounds.map((sound, value) => ({
              value,
              label: `${value + 1}: ${sound.title || `${sound.channels} channels`}`,
            }))
          "
          @change="set([sounds[0]], { stream: $event })"
        />
      </section>
      <section class="border-t border-line py-3">
        <h3 class="font-semibold">Label</h3>
        <div class="mt-2 flex gap-2">
          <button
            class="size-6 rounded-full border border-line text-[10px] text-muted"
            :aria-pressed="!first.label"
            aria-label="No label"
            @click="set(clips, { label: null })"
          >
            —
          </button>
          <button
            v-for="label in LABELS"
            :key="label"
            class="size-6 rounded-full"
            :class="first.label === label && 'outline-2 outline-offset-2 outline-ivory'"
            :style="{ background: `var(--color-${label})` }"
            :aria-pressed="first.label === label"
            :aria-label="`Label ${label}`"
            @click="set(clips, { label })"
          />
        </div>
      </section>
    </template>
    <template v-else-if="project.reel">
      <header class="flex items-baseline gap-2 border-b border-line pb-2">
        <h2 class="truncate font-display text-lg font-semibold">{{ project.reel.name }}</h2>
        <span class="ml-auto text-sm text-muted">reel</span>
      </header>
      <section class="space-y-1.5 py-3">
        <label class="grid grid-cols-[84px_minmax(0,1fr)] items-center gap-2">
          <span class="text-muted">Name</span>
          <input
            class="field"
            :value="project.reel.name"
            maxlength="200"
            @change="
              project.perform({
                type: 'setReel',
                reelId: project.reelId,
                set: { name: ($event.target as HTMLInputElement).value || 'Reel' },
              })
            "
            @keydown.stop
          />
        </label>
        <ChoiceField
          label="Size"
          :value="`${project.reel.format.width}x${project.reel.format.height}`"
          :options="sizes"
          @change="setFormat({ size: $event })"
        />
        <ChoiceField
          label="Frames/s"
          :value="REEL_RATES.findIndex((entry) => sameRate(entry, project.reel!.format.rate))"
          :options="REEL_RATES.map((entry, value) => ({ value, label: formatRate(entry) }))"
          @change="setFormat({ rate: $event })"
        />
        <ChoiceField
          label="Fitting"
          :value="project.reel.fit"
          :options="FITS.slice(1) as { value: Fit; label: string }[]"
          @change="project.perform({ type: 'setReel', reelId: project.reelId, set: { fit: $event } })"
        />
        <label class="grid grid-cols-[84px_minmax(0,1fr)] items-center gap-2">
          <span class="text-muted">Background</span>
          <input
            type="color"
            class="field p-1"
            :value="project.reel.background"
            @change="
              project.perform({
                type: 'setReel',
                reelId: project.reelId,
                set: { background: ($event.target as HTMLInputElement).value },
              })
            "
          />
        </label>
      </section>
      <p class="border-t border-line pt-3 text-muted">Select a clip to place it, size it, or set its level.</p>
    </template>
  </aside>
</template>
