<script setup lang="ts">
import { computed, onScopeDispose, ref, watch } from 'vue'
import { soundEffect } from '@dusk/sound'
import { SAMPLE_RATE, TICKS_PER_SAMPLE, clipSourceRange, type Effect, type EffectOwner } from '@dusk/timeline'
import { usePlayer } from '~/features/player/usePlayhead'
import EffectRows from '~/features/params/EffectRows.vue'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import EffectPlot from './EffectPlot.vue'
import { useSound } from './soundStore'
import { effectStack } from '~/features/effects/useEffectTarget'

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

const stack = computed(() => effectStack('sound', project.document?.effects ?? {}, props.ownerId))
const open = ref<string | null>(null)
watch([open, () => props.heardOn], () => player.watchSpectrum(open.value ? props.heardOn : null), { immediate: true })
onScopeDispose(() => player.watchSpectrum(null))

const kindOf = (effect: Effect) => soundEffect(effect.kind)
const set = (effect: Effect, change: object) =>
  project.perform({ type: 'setEffects', effectIds: [effect.id], set: change })
async function keep(effect: Effect): Promise<void> {
  await store.load()
  const name = `${kindOf(effect)!.name} ${Object.keys(store.preferences.presets).length + 1}`
  if (await store.keepPreset(effect.kind, name, effect.settings)) notices.say(`Kept as “${name}” in the Sound drawer.`)
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
    const { print } = await player.tasks.learnNoise({
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
  <EffectRows
    title="Sound effects"
    :stack="stack"
    :kind-of="kindOf"
    drawer="sound"
    drawer-name="Sound"
    :time="time"
    :hidden="['print']"
    @go="emit('go', $event)"
    @open="open = $event"
  >
    <template #default="{ effect }">
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
    </template>
    <template #foot="{ effect }">
      <button class="key h-6 px-1.5 text-sm text-muted" @click="keep(effect)">Keep as a preset</button>
    </template>
  </EffectRows>
</template>
