<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import ChevronDown from '@lucide/vue/dist/esm/icons/chevron-down.mjs'
import ChevronUp from '@lucide/vue/dist/esm/icons/chevron-up.mjs'
import Trash from '@lucide/vue/dist/esm/icons/trash.mjs'
import type { Effect, Param } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { tried } from '~/features/project/tried'
import { useDesk } from '~/features/timeline/deskStore'
import { usePlayer } from '~/features/player/usePlayhead'
import { keepSliderKeys } from '~/features/ui/sliderKeys'

/** A stack of effects, of pictures or of sounds: switched, ordered, mixed, set, tried without. */
const props = defineProps<{
  title: string
  stack: readonly Effect[]
  kindOf: (effect: Effect) => { name: string; params: readonly Param[] } | undefined
  /** Id of the drawer that has them, and what it is called. */
  drawer: string
  drawerName: string
  /** The owner's time under the playhead, in ticks. */
  time: number
  /** Settings that are not shown as fields. */
  hidden?: readonly string[]
}>()
const emit = defineEmits<{ go: [time: number]; open: [effectId: string | null] }>()
const project = useProject()
const desk = useDesk()
const player = usePlayer()

const open = ref<string | null>(null)
watch(
  () => props.stack.length,
  (count, before) => {
    // What was just put on is what the person wants to set.
    if (count > (before ?? 0)) open.value = props.stack.at(-1)?.id ?? null
  },
)
watch(open, (id) => emit('open', id))
const nameOf = (effect: Effect) => props.kindOf(effect)?.name ?? effect.kind
const set = (effect: Effect, change: object) =>
  project.perform({ type: 'setEffects', effectIds: [effect.id], set: change })
/** Shown while something is dragged, not kept. */
function attempt(effect: Effect, change: object): void {
  const next = tried(project.document!, { type: 'setEffects', effectIds: [effect.id], set: change })
  if (next) player.tryOut(next.project, { heard: effect.domain === 'sound' })
}
/** The first heading is open to begin with. */
const firstGroup = (effect: Effect) =>
  props
    .kindOf(effect)!
    .params.flatMap(({ group }) => group ?? [])
    .slice(0, 1)
const anyOn = computed(() => props.stack.some((effect) => effect.on))

function move(index: number, by: 1 | -1): void {
  const after = by < 0 ? props.stack[index - 2] : props.stack[index + 1]
  project.perform({ type: 'moveEffect', effectId: props.stack[index]!.id, after: after?.id ?? null })
}
function switchAll(): void {
  project.perform({ type: 'setEffects', effectIds: props.stack.map(({ id }) => id), set: { on: !anyOn.value } })
}
</script>

<template>
  <section class="border-t border-line py-2" :aria-label="`${title}, in their order`">
    <div class="flex items-center">
      <h3 class="min-w-0 flex-1 font-semibold">{{ title }}</h3>
      <button
        v-if="stack.length > 0"
        class="key h-6 px-1.5 text-sm text-muted"
        :aria-pressed="!anyOn"
        title="With and without all of them"
        @click="switchAll"
      >
        {{ anyOn ? 'without' : 'with' }}
      </button>
      <slot name="menu" />
      <button class="key h-6 px-1.5 text-sm" @click="desk.drawer = drawer">add</button>
    </div>
    <p v-if="stack.length === 0" class="text-sm text-muted">None. The {{ drawerName }} drawer has them.</p>
    <ul class="space-y-1 pt-1">
      <li v-for="(effect, i) in stack" :key="effect.id" class="rounded-md bg-raised/60 px-1.5 py-1">
        <div class="flex items-center gap-1">
          <input
            type="checkbox"
            class="accent-ember"
            :checked="effect.on"
            :aria-label="`${nameOf(effect)} on`"
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
            :aria-label="`Strength of ${nameOf(effect)}`"
            :title="`Strength ${effect.strength} %`"
            @keydown="keepSliderKeys"
            @input="attempt(effect, { strength: Number(($event.target as HTMLInputElement).value) })"
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
            :aria-label="`Remove ${nameOf(effect)}`"
            @click="project.perform({ type: 'removeEffects', effectIds: [effect.id] })"
          >
            <Trash :size="13" />
          </button>
        </div>
        <div v-if="open === effect.id && kindOf(effect)" class="pt-1">
          <slot :effect="effect" :set="(settings: object) => set(effect, { settings })" />
          <ParamGroups
            :params="kindOf(effect)!.params.filter(({ key }) => !hidden?.includes(key))"
            :values="effect.settings"
            :time="time"
            :open="firstGroup(effect)"
            @change="set(effect, { settings: $event })"
            @try="attempt(effect, { settings: $event })"
            @go="emit('go', $event)"
          />
          <slot
            name="foot"
            :effect="effect"
            :change="(change: object) => set(effect, change)"
            :attempt="(change: object) => attempt(effect, change)"
          />
        </div>
      </li>
    </ul>
  </section>
</template>
