<script setup lang="ts">
import { computed } from 'vue'
import { formatSeconds, SOUND_FADES, type CommandInput, type Params, type Transition } from '@dusk/timeline'
import { transitionById } from '@dusk/compositor'
import { useTransitionActions } from './useTransitionActions'
import { typedLength } from '~/features/ui/typedLength'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'

/** The selected transitions: how long, where on the cut, and how they look. What is typed goes for all of them. */
const props = defineProps<{ transitions: readonly Transition[] }>()
const project = useProject()
const notices = useNotices()
const act = useTransitionActions()

const first = computed(() => props.transitions[0]!)
const sound = computed(() => project.document!.tracks[first.value.trackId]?.kind === 'sound')
const kind = computed(() => transitionById(first.value.kind))
const length = computed(() => first.value.before + first.value.after)
const both = computed(() => first.value.leftId !== null && first.value.rightId !== null)
const rate = computed(() => project.reel!.format.rate)

type Settings = Extract<CommandInput, { type: 'setTransitions' }>['set']
const set = (values: Settings) =>
  project.perform({ type: 'setTransitions', transitionIds: props.transitions.map((entry) => entry.id), set: values })

const PLACES = [
  { value: 'centre', label: 'Centred on the cut' },
  { value: 'before', label: 'Before the cut' },
  { value: 'after', label: 'After the cut' },
] as const
const place = computed(() => (first.value.before === 0 ? 'after' : first.value.after === 0 ? 'before' : 'centre'))

function sides(total: number, where: 'centre' | 'before' | 'after') {
  if (!both.value) return first.value.leftId ? { before: total, after: 0 } : { before: 0, after: total }
  if (where === 'centre') return { before: Math.round(total / 2), after: total - Math.round(total / 2) }
  return where === 'before' ? { before: total, after: 0 } : { before: 0, after: total }
}

function typeLength(event: Event): void {
  const input = event.target as HTMLInputElement
  const ticks = typedLength(input.value, rate.value, length.value)
  if (ticks === null || ticks <= 0) notices.say('A length is typed as 1s, 0.5s, 12f or 0:00:01:00.')
  else if (ticks !== length.value) {
    set(sides(ticks, place.value))
    const now = project.document!.transitions[first.value.id]
    if (now && now.before + now.after < ticks - 1 && now.missing === 'shorten')
      notices.say(
        `Shortened to ${formatSeconds(now.before + now.after)}: there is no more hidden footage. Hold the ` +
          'edge frames to make it longer.',
      )
  }
  input.value = formatSeconds(length.value)
}

function change(patch: Record<string, unknown>): void {
  const settings = { ...first.value.settings }
  for (const [key, value] of Object.entries(patch)) {
    if (value === null) delete settings[key]
    else settings[key] = value as never
  }
  set({ settings: settings as Params })
}
const FADES = { equalPower: 'Even power', linear: 'Straight', slow: 'Late and soft', fast: 'Early and full' }
</script>

<template>
  <div>
    <header class="flex items-baseline gap-2 border-b border-line pb-2">
      <h2 class="truncate font-display text-lg font-semibold">{{ sound ? 'Crossfade' : kind.name }}</h2>
      <span class="ml-auto shrink-0 text-sm text-muted">{{
        transitions.length > 1
          ? `${transitions.length} transitions`
          : both
            ? 'transition'
            : first.rightId
              ? 'at the start'
              : 'at the end'
      }}</span>
    </header>
    <p v-if="!sound" class="pt-2 text-muted">{{ kind.hint }}</p>
    <section class="space-y-1.5 py-3">
      <label class="grid grid-cols-[84px_minmax(0,1fr)] items-center gap-2">
        <span class="text-muted">Length</span>
        <input
          class="field font-mono text-[11px]"
          :value="formatSeconds(length)"
          aria-label="Length"
          title="1s, 0.5s, 12f"
          @change="typeLength"
          @keydown.enter="($event.target as HTMLInputElement).blur()"
          @keydown.stop
        />
      </label>
      <ChoiceField v-if="both" label="Lies" :value="place" :options="PLACES" @change="set(sides(length, $event))" />
      <ChoiceField
        v-if="both"
        label="Too little"
        title="When a clip has too little hidden footage"
        :value="first.missing"
        :options="[
          { value: 'shorten', label: 'Shorten it' },
          { value: 'hold', label: 'Hold the edge frame' },
        ]"
        @change="set({ missing: $event })"
      />
      <ChoiceField
        v-if="sound"
        label="Curve"
        :value="first.kind"
        :options="SOUND_FADES.map((value) => ({ value: value as string, label: FADES[value] }))"
        @change="set({ kind: $event })"
      />
    </section>
    <ParamGroups
      v-if="!sound"
      class="border-t border-line"
      :params="kind.params"
      :values="first.settings"
      :time="null"
      @change="change"
    />
    <section class="flex flex-wrap gap-2 border-t border-line py-3">
      <button v-if="both && transitions.length === 1" class="key key-line" @click="act.copyToTrack(first)">
        Put on every cut
      </button>
      <button class="key text-rose" @click="act.remove()">Remove</button>
    </section>
  </div>
</template>
