<script setup lang="ts">
import { computed, onScopeDispose, ref, watch } from 'vue'
import ChevronDown from '@lucide/vue/dist/esm/icons/chevron-down.mjs'
import ChevronUp from '@lucide/vue/dist/esm/icons/chevron-up.mjs'
import Trash from '@lucide/vue/dist/esm/icons/trash.mjs'
import { soundEffect } from '@dusk/sound'
import { SAMPLE_RATE, TICKS_PER_SAMPLE, clipSourceRange, type Effect, type EffectOwner } from '@dusk/timeline'
import { usePlayer } from '~/features/player/usePlayhead'
import { keepSliderKeys } from '~/features/ui/sliderKeys'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import EffectPlot from './EffectPlot.vue'
import { useSound } from './soundStore'
import { soundStack } from './useSoundTarget'

/** The sound effects of a clip, a track or the reel: switched, ordered, set, listened to without them. */
const props = defineProps<{
  owner: EffectOwner
  ownerId: string
  /** The owner's time under the playhead, in ticks. */
  time: number
  /** The track or reel through which it is heard: its spectrum is shown. */
  heardOn: string
}>()
const emit = defineEmits<{ go: [time: number] }>()
const project = useProject()
const desk = useDesk()
const player = usePlayer()
const notices = useNotices()
const store = useSound()

const stack = computed(() => soundStack(project.document?.effects ?? {}, props.ownerId))
const open = ref<string | null>(null)
watch(
  () => stack.value.length,
  (count, before) => {
    // What was just put on is what the person wants to set.
    if (count > (before ?? 0)) open.value = stack.value.at(-1)?.id ?? null
  },
)
watch([open, () => props.heardOn], () => player.watchSpectrum(open.value ? props.heardOn : null), { immediate: true })
onScopeDispose(() => player.watchSpectrum(null))

const kindOf = (effect: Effect) => soundEffect(effect.kind)
const set = (effect: Effect, change: object) =>
  project.perform({ type: 'setEffects', effectIds: [effect.id], set: change })
const anyOn = computed(() => stack.value.some((effect) => effect.on))

function move(index: number, by: 1 | -1): void {
  const after = by < 0 ? stack.value[index - 2] : stack.value[index + 1]
  project.perform({ type: 'moveEffect', effectId: stack.value[index]!.id, after: after?.id ?? null })
}
function switchAll(): void {
  project.perform({
    type: 'setEffects',
    effectIds: stack.value.map(({ id }) => id),
    set: { on: !anyOn.value },
  })
}
function keep(effect: Effect): void {
  const name = `${kindOf(effect)!.name} ${Object.keys(store.preferences.presets).length + 1}`
  void store.keepPreset(effect.kind, name, effect.settings)
  notices.say(`Kept as “${name}” in the Sound drawer.`)
}

/** Learns the noise from the marked range, or from the quietest half second of the clip. */
async function learn(effect: Effect): Promise<void> {
  const clip = project.document?.clips[props.ownerId]
  const media =
    clip?.kind === 'media'
      ? clip
      : Object.values(project.document?.clips ?? {}).find(
          (entry) => entry.kind === 'media' && entry.trackId === props.ownerId,
        )
  if (media?.kind !== 'media' || media.stream === null) return notices.say('There is no recording here to learn from.')
  const { from, to } = clipSourceRange(media)
  const at = (tick: number) => Math.max(0, Math.round(tick / TICKS_PER_SAMPLE))
  const marked = desk.range && {
    from: Math.max(from, from + desk.range.from - media.start),
    to: Math.min(to, from + desk.range.to - media.start),
  }
  const span = marked && marked.to - marked.from > TICKS_PER_SAMPLE * SAMPLE_RATE * 0.1 ? marked : { from, to }
  try {
    const { print } = await player.learnNoise({
      assetId: media.assetId,
      stream: media.stream,
      from: at(span.from),
      to: at(span.to),
    })
    set(effect, { settings: { print } })
    notices.say(span === marked ? 'Learned from the marked range.' : 'Learned from the quietest half second.')
  } catch (error) {
    notices.warn((error as Error).message)
  }
}
</script>

<template>
  <section class="border-t border-line py-2" aria-label="Sound effects">
    <div class="flex items-center">
      <h3 class="min-w-0 flex-1 font-semibold">Sound effects</h3>
      <button
        v-if="stack.length > 0"
        class="key h-6 px-1.5 text-sm text-muted"
        :aria-pressed="!anyOn"
        title="Listen with and without all of them"
        @click="switchAll"
      >
        {{ anyOn ? 'without' : 'with' }}
      </button>
      <button class="key h-6 px-1.5 text-sm" @click="desk.drawer = 'sound'">add</button>
    </div>
    <p v-if="stack.length === 0" class="text-sm text-muted">None. The Sound drawer has them.</p>
    <ul class="space-y-1 pt-1">
      <li v-for="(effect, i) in stack" :key="effect.id" class="rounded-md bg-raised/60 px-1.5 py-1">
        <div class="flex items-center gap-1">
          <input
            type="checkbox"
            class="accent-ember"
            :checked="effect.on"
            :aria-label="`${kindOf(effect)?.name ?? effect.kind} on`"
            @change="set(effect, { on: !effect.on })"
          />
          <button
            class="min-w-0 flex-1 truncate text-left"
            :class="!effect.on && 'text-muted'"
            :aria-expanded="open === effect.id"
            @click="open = open === effect.id ? null : effect.id"
          >
            {{ kindOf(effect)?.name ?? `${effect.kind} (of a newer version)` }}
          </button>
          <input
            type="range"
            class="h-1 w-14 accent-ember"
            min="0"
            max="100"
            :value="effect.strength"
            :aria-label="`Strength of ${kindOf(effect)?.name ?? effect.kind}`"
            :title="`Strength ${effect.strength} %`"
            @keydown="keepSliderKeys"
            @change="set(effect, { strength: Number(($event.target as HTMLInputElement).value) })"
          />
          <button
            class="grid size-6 place-items-center text-muted hover:text-ivory disabled:opacity-30"
            :disabled="i === 0"
            aria-label="Earlier"
            @click="move(i, -1)"
          >
            <ChevronUp :size="14" />
          </button>
          <button
            class="grid size-6 place-items-center text-muted hover:text-ivory disabled:opacity-30"
            :disabled="i === stack.length - 1"
            aria-label="Later"
            @click="move(i, 1)"
          >
            <ChevronDown :size="14" />
          </button>
          <button
            class="grid size-6 place-items-center text-muted hover:text-rose"
            :aria-label="`Remove ${kindOf(effect)?.name ?? effect.kind}`"
            @click="project.perform({ type: 'removeEffects', effectIds: [effect.id] })"
          >
            <Trash :size="13" />
          </button>
        </div>
        <div v-if="open === effect.id && kindOf(effect)" class="pt-1">
          <EffectPlot
            v-if="kindOf(effect)!.response || kindOf(effect)!.transfer"
            class="mb-1 h-28"
            :kind="kindOf(effect)!"
            :settings="effect.settings"
            :time="time"
            :spectrum="player.meters.value?.spectrum"
            :reduction="player.meters.value?.reductions[effect.id] ?? 0"
            @change="set(effect, { settings: $event })"
          />
          <button v-if="effect.kind === 'noise'" class="key key-line mt-1" @click="learn(effect)">
            {{ effect.settings.print ? 'Learn the noise again' : 'Learn the noise' }}
          </button>
          <ParamGroups
            :params="kindOf(effect)!.params.filter(({ key }) => key !== 'print')"
            :values="effect.settings"
            :time="time"
            @change="set(effect, { settings: $event })"
            @go="emit('go', $event)"
          />
          <button class="key h-6 px-1.5 text-sm text-muted" @click="keep(effect)">Keep as a preset</button>
        </div>
      </li>
    </ul>
  </section>
</template>
