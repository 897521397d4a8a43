<script setup lang="ts">
import { computed } from 'vue'
import {
  CLIP_PARAMS,
  clipEnd,
  clipName,
  formatFine,
  formatSeconds,
  formatTimecode,
  parseTimecode,
  reading,
  slips,
  snapToFrame,
  sourceOf,
  ticksPerFrame,
  type Animated,
  type Clip,
  type CommandInput,
} from '@dusk/timeline'
import { usePlayhead } from '~/features/player/usePlayhead'
import { FITS } from '~/features/ui/sizes'
import { typedLength } from '~/features/ui/typedLength'
import { useFeatures } from '~/features/registry/feature'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'

/** The selected clips: when and how long, placed how, how loud. What is typed goes for all of them. */
const props = defineProps<{ clips: readonly Clip[] }>()
const project = useProject()
const desk = useDesk()
const playhead = usePlayhead()
const notices = useNotices()

const pictures = computed(() => props.clips.filter((clip) => clip.stream === null))
const sounds = computed(() => props.clips.filter((clip) => clip.stream !== null))
const first = computed(() => (pictures.value[0] ?? sounds.value[0])!)
const rate = computed(() => project.reel?.format.rate ?? { num: 30, den: 1 })
const kindWord = computed(() => {
  const { value: clip } = first
  if (clip.kind === 'reel') return 'nested reel'
  if (clip.kind !== 'media') return clip.kind === 'generator' ? 'made picture' : clip.kind
  return clip.map.kind === 'freeze' ? 'frozen' : (project.document!.assets[clip.assetId]?.kind ?? '')
})
/** Ticks by which the selected pair is apart. */
const slip = computed(() => {
  const all = slips(project.document!)
  return props.clips.map((clip) => all.get(clip.id)).find((ticks) => ticks !== undefined) ?? 0
})

type Settings = Extract<CommandInput, { type: 'setClips' }>['set']
const set = (list: readonly Clip[], values: Settings) =>
  project.perform({ type: 'setClips', clipIds: list.map((clip) => clip.id), set: values })

/** A nested reel to which something is done as a whole is one picture: it can't be looked through. */
const treated = computed(() => {
  const [clip] = pictures.value
  const { tracks = {}, effects = {} } = project.document ?? {}
  const track = clip && tracks[clip.trackId]
  if (clip?.kind !== 'reel' || !track) return false
  const owners = [clip.id, track.id, clip.nestedId]
  const acted = Object.values(effects).some(({ ownerId, domain }) => domain === 'picture' && owners.includes(ownerId))
  return acted || Object.keys({ ...clip.params, ...track.params }).length > 0
})

/** Clip time under the playhead: where a change sets a keyframe. */
const time = computed(() => {
  const clip = pictures.value[0]!
  const frame = ticksPerFrame(rate.value)
  // Beyond the clip its nearest frame is meant.
  const at = Math.min(Math.max(playhead.tick.value, clip.start), clipEnd(clip) - Math.round(frame))
  return clip.head + snapToFrame(at, rate.value) - clip.start
})
const params = computed(() => {
  const { kind } = pictures.value[0]!
  // What is as large as the reel leaves nothing empty.
  return kind === 'media' || kind === 'reel' ? CLIP_PARAMS : CLIP_PARAMS.filter((param) => param.group !== 'Filling')
})
const setParams = (patch: Record<string, Animated | null>) =>
  project.perform({ type: 'setParams', clipIds: pictures.value.map((clip) => clip.id), set: patch as never })
function goTo(clipTime: number): void {
  const clip = pictures.value[0]!
  playhead.goTo(clip.start + clipTime - clip.head)
}

/** Parts that features add, in front of the clip's own settings and behind them; each clip's are its own. */
const entries = useFeatures()
  .flatMap(({ id, clipSections }) =>
    (clipSections ?? []).map((section, place) => ({ ...section, key: `${id} ${place}` })),
  )
  .sort((a, b) => a.order - b.order)
const sections = computed(() => {
  const shown = {
    clips: props.clips,
    pictures: pictures.value,
    sounds: sounds.value,
    time: pictures.value[0] ? time.value : 0,
    goTo,
  }
  return entries.flatMap(({ order, component, key, full, props: propsOf }) => {
    if (full && desk.calm) return []
    const given = propsOf(shown)
    return given ? [{ order, component, given, key: `${key} ${first.value.id}` }] : []
  })
})
const before = computed(() => sections.value.filter(({ order }) => order < 0))
const behind = computed(() => sections.value.filter(({ order }) => order >= 0))

function rename(text: string): void {
  const name = text.trim()
  const own = sourceOf(reading(project.document!), first.value)?.name
  set([first.value], { name: !name || name === own ? null : name })
}

/** Sounds alone lie on the grid of samples: their times are shown and typed to the thousandth. */
const fine = computed(() => props.clips.every((clip) => clip.stream !== null))
const shownTime = (tick: number) => (fine.value ? formatFine(tick, rate.value) : formatTimecode(tick, rate.value))

interface TimeField {
  label: string
  /** Shown and typed in seconds. */
  length?: boolean
  hint: string
  show: () => string
  /** Carries out what was typed. */
  apply: (tick: number) => void
  /** What + and − count from. */
  from: () => number
}
const TIMES: TimeField[] = [
  {
    label: 'Begins',
    hint: 'Moves the clip: 0:00:12:05, 4.5s, 300f, or +12 frames; sound alone also +0.006s',
    show: () => shownTime(first.value.start),
    from: () => first.value.start,
    apply: (tick) =>
      project.perform({
        type: 'move',
        clipIds: [first.value.id],
        by: tick - first.value.start,
        mode: 'free',
        linked: desk.linked,
      }),
  },
  {
    label: 'Ends',
    hint: 'Trims the end',
    show: () => shownTime(clipEnd(first.value)),
    from: () => clipEnd(first.value),
    apply: (to) => project.perform({ type: 'trim', clipId: first.value.id, edge: 'end', to, linked: desk.linked }),
  },
  {
    label: 'Length',
    hint: 'Trims the end, of all that is selected: 2.5s, 60f, 1:04, +12. With ripple drags later clips follow.',
    length: true,
    show: () => formatSeconds(first.value.length),
    from: () => first.value.length,
    apply: (length) =>
      project.perform({
        ...{ type: 'setLengths', clipIds: props.clips.map((clip) => clip.id), length },
        ...{ mode: desk.tool === 'ripple' ? 'ripple' : 'plain', scope: desk.scope, linked: desk.linked },
      }),
  },
]

function typeTime(field: TimeField, event: Event): void {
  const input = event.target as HTMLInputElement
  const tick = field.length
    ? typedLength(input.value, rate.value, field.from(), fine.value)
    : parseTimecode(input.value.replace(/\s+s$/, 's'), rate.value, field.from(), fine.value)
  if (tick === null) notices.say('A time is typed as 0:00:12:05, 1:04, 4.5s, 300f, or +12 frames from here.')
  else if (tick !== field.from()) field.apply(tick)
  input.value = field.show()
}
</script>

<template>
  <div>
    <DetailsHeading
      :name="clipName(reading(project.document!), first)"
      :what="clips.length > 1 ? `${clips.length} clips` : kindWord"
      label="Name of the clip"
      title="Click to name this clip"
      @rename="rename"
    />
    <section class="space-y-1.5 py-3">
      <label v-for="field in TIMES" :key="field.label" class="grid grid-cols-[84px_minmax(0,1fr)] items-center gap-2">
        <span class="text-muted">{{ field.label }}</span>
        <input
          class="field font-mono text-[11px]"
          :value="field.show()"
          :title="field.hint"
          :aria-label="field.label"
          @change="typeTime(field, $event)"
          @keydown.enter="($event.target as HTMLInputElement).blur()"
          @keydown.stop
        />
      </label>
      <p v-if="slip" class="flex items-center justify-between text-rose">
        {{ formatSeconds(Math.abs(slip)) }} {{ slip > 0 ? 'late' : 'early' }}
        <button
          class="key key-line text-ivory"
          @click="project.perform({ type: 'resync', clipIds: clips.map((clip) => clip.id) })"
        >
          Put back in sync
        </button>
      </p>
    </section>
    <template v-if="pictures[0]">
      <component :is="entry.component" v-for="entry in before" :key="entry.key" v-bind="entry.given" />
      <HintLine id="keyframes" class="mt-2 calm:hidden"
        >The diamond beside a number lets it change over time: set one, move the playhead, change the number.</HintLine
      >
      <ParamGroups
        :key="pictures[0].kind"
        :params="params"
        :values="pictures[0].params"
        :time="time"
        :open="pictures[0].kind === 'title' ? [] : ['Place', 'Mix']"
        @change="setParams"
        @go="goTo"
      />
      <section v-if="pictures[0].kind === 'media' || pictures[0].kind === 'reel'" class="border-t border-line py-2">
        <ChoiceField
          label="Fitting"
          :value="pictures[0].fit ?? 'reel'"
          :options="FITS"
          @change="set(pictures, { fit: $event === 'reel' ? null : $event })"
        />
        <CheckField
          v-if="pictures[0].kind === 'reel'"
          label="Look through"
          :value="pictures[0].through === true"
          :disabled="treated"
          @change="set(pictures, { through: $event })"
        >
          {{
            treated
              ? 'not while something is done to all of it'
              : 'what blends or adjusts in it acts on what lies beneath'
          }}
        </CheckField>
      </section>
    </template>
    <component :is="entry.component" v-for="entry in behind" :key="entry.key" v-bind="entry.given" />
    <LabelAndNote :label="first.label" :note="first.note" note-label="Note on the clip" @change="set(clips, $event)" />
  </div>
</template>
