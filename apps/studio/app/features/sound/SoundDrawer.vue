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
  <GalleryDrawer name="Sound">
    <template #find>
      <input
        v-model="words"
        class="field"
        type="search"
        placeholder="Find: voice, hum, hall …"
        aria-label="Find a sound effect"
        @keydown.stop
      />
    </template>
    <template #filters>
      <ChoiceField label="Family" :value="family" :options="FAMILY_CHOICES" @change="family = $event" />
      <p class="text-sm text-muted">
        Goes on <span class="text-ivory">{{ target.words }}</span>; rest on one to hear it.
      </p>
    </template>
    <GallerySection v-for="{ kind, tiles } in groups" :key="kind.id" :name="kind.name" :hint="kind.hint">
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
    </GallerySection>
    <p v-if="groups.length === 0" class="mt-6 text-center text-muted">Nothing is called that.</p>
  </GalleryDrawer>
</template>
