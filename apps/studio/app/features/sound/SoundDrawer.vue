<script setup lang="ts">
import { computed, ref } from 'vue'
import { SOUND_EFFECTS, SOUND_FAMILIES, type SoundPreset } from '@dusk/sound'
import type { CommandInput, Params } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import SoundTile from './SoundTile.vue'
import { useSound } from './soundStore'
import { useListening } from './useListening'
import { useEffectTarget } from '~/features/effects/useEffectTarget'

/** Every sound effect with its presets: heard while the pointer rests on one, put on by a click or a drag. */
const project = useProject()
const store = useSound()
const target = useEffectTarget('sound')
const listening = useListening()
void store.load()
const words = ref('')
const family = ref('')

interface Tile {
  id: string
  kind: string
  name: string
  settings: Params
  own: boolean
}

const FAMILY_CHOICES = [
  { value: '', label: 'All families' },
  ...SOUND_FAMILIES.map(({ id, name }) => ({ value: id as string, label: name as string })),
]

const groups = computed(() => {
  const wanted = words.value.trim().toLowerCase()
  const own = Object.values(store.preferences.presets)
  return SOUND_EFFECTS.flatMap((kind) => {
    if (family.value && kind.family !== family.value) return []
    const familyName = SOUND_FAMILIES.find(({ id }) => id === kind.family)!.name
    const all: Tile[] = [
      { id: kind.id, kind: kind.id, name: 'Plain', settings: {}, own: false },
      ...kind.presets.map((entry: SoundPreset) => ({ ...entry, kind: kind.id, own: false })),
      ...own.filter((entry) => entry.kind === kind.id).map((entry) => ({ ...entry, own: true })),
    ]
    const whole = `${kind.name} ${kind.hint} ${familyName}`.toLowerCase().includes(wanted)
    const tiles = whole ? all : all.filter(({ name }) => name.toLowerCase().includes(wanted))
    return tiles.length > 0 ? [{ kind, tiles }] : []
  })
})

const commandOf = ({ kind, settings }: Tile): CommandInput => ({
  type: 'addEffects',
  owner: target.value.owner,
  ownerIds: target.value.ids,
  effects: [{ domain: 'sound', kind, settings, strength: 100 }],
})

function use(tile: Tile): void {
  listening.end()
  project.perform(commandOf(tile))
}
</script>

<template>
  <section class="flex h-full flex-col bg-panel" aria-label="Sound">
    <header class="space-y-2 px-3 pt-3">
      <h2 class="font-display text-lg font-semibold">Sound</h2>
      <input
        v-model="words"
        class="field"
        type="search"
        placeholder="Find: voice, hum, hall …"
        aria-label="Find a sound effect"
        @keydown.stop
      />
      <ChoiceField label="Family" :value="family" :options="FAMILY_CHOICES" @change="family = $event" />
      <p class="text-sm text-muted">
        Goes on <span class="text-ivory">{{ target.words }}</span>; rest on one to hear it.
      </p>
    </header>
    <div class="min-h-0 flex-1 overflow-auto px-3 pb-3">
      <section v-for="{ kind, tiles } in groups" :key="kind.id" class="pt-3" :aria-label="kind.name">
        <h3 class="flex items-baseline gap-2 pb-1.5 text-sm font-semibold" :title="kind.hint">{{ kind.name }}</h3>
        <ul class="grid grid-cols-2 gap-1.5">
          <SoundTile
            v-for="tile in tiles"
            :key="tile.id"
            :kind="kind"
            :name="tile.name"
            :settings="tile.settings"
            :own="tile.own"
            @use="use(tile)"
            @rename="store.renamePreset(tile.id, $event)"
            @drop-own="store.dropPreset(tile.id)"
            @pointerenter="listening.begin(commandOf(tile), target)"
            @pointerleave="listening.end()"
          />
        </ul>
      </section>
      <p v-if="groups.length === 0" class="mt-6 text-center text-muted">Nothing is called that.</p>
    </div>
  </section>
</template>
