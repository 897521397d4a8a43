<script setup lang="ts">
import { computed, ref } from 'vue'
import Type from '@lucide/vue/dist/esm/icons/type.mjs'
import type { Params, Value } from '@dusk/timeline'
import {
  GENERATOR_FAMILIES,
  GENERATORS,
  presetTitle,
  settingsFor,
  TITLE_FAMILIES,
  TITLE_PRESETS,
} from '@dusk/compositor'
import { useGenerated } from './useGenerated'
import { STICKERS } from './stickers'
import { fitOwn, TITLE_LENGTH, type Generated } from './generated'
import { useProject } from '~/features/project/projectStore'
import { useTitles } from './titlesStore'

/** Titles, shapes, callouts, stickers and backgrounds, each shown as it will be. */
const project = useProject()
const titles = useTitles()
const act = useGenerated()
void titles.load()

interface Entry {
  key: string
  name: string
  hint: string
  generated: Generated
  length: number
  own?: boolean
}
const KINDS = ['Titles', 'Shapes', 'Stickers', 'Backgrounds'] as const
const kind = ref<(typeof KINDS)[number]>('Titles')
const words = ref('')
const format = computed(() => project.reel?.format ?? { width: 1920, height: 1080 })

const groups = computed<{ name: string; entries: Entry[] }[]>(() => {
  const generated = (generator: string, settings: object = {}): Generated => ({
    kind: 'generator',
    generator,
    settings: settings as never,
    params: {},
  })
  if (kind.value === 'Titles') {
    const own = titles.own.map((entry): Entry => ({
      key: entry.id,
      name: entry.name,
      hint: 'Kept by you.',
      generated: fitOwn(entry, format.value),
      length: TITLE_LENGTH,
      own: true,
    }))
    const shipped = Object.entries(TITLE_FAMILIES).map(([family, name]) => ({
      name: name as string,
      entries: TITLE_PRESETS[family as keyof typeof TITLE_FAMILIES].map((preset): Entry => {
        const { title, params, length } = presetTitle(preset, format.value)
        return {
          key: preset.id,
          name: preset.name,
          hint: `${name}.`,
          generated: { kind: 'title', title, params },
          length,
        }
      }),
    }))
    return [{ name: 'Your own', entries: own }, ...shipped]
  }
  if (kind.value === 'Stickers')
    return STICKERS.map(({ name, emoji }) => ({
      name,
      entries: emoji.map(([text, label]) => ({
        key: text!,
        name: label!,
        hint: '',
        generated: generated('sticker', { text, size: Math.round(format.value.height / 4) }),
        length: TITLE_LENGTH,
      })),
    }))
  const adjustment: Entry = {
    key: 'adjustment',
    name: 'Adjustment',
    hint: 'Takes everything beneath as one picture, to move, size, crop, frame or blend it as a whole.',
    generated: { kind: 'adjustment', params: {} },
    length: TITLE_LENGTH,
  }
  const whole = kind.value === 'Backgrounds' ? [{ name: 'Everything beneath', entries: [adjustment] }] : []
  const families = kind.value === 'Shapes' ? (['shapes', 'callouts'] as const) : (['grounds', 'particles'] as const)
  const shapes = families.map((family) => ({
    name: GENERATOR_FAMILIES[family],
    entries: GENERATORS.filter((entry) => entry.family === family).flatMap((entry) =>
      [{ id: '', name: entry.name, settings: {} as Params }, ...entry.presets].map((preset) => ({
        key: `${entry.id} ${preset.id}`,
        name: preset.name,
        hint: entry.hint,
        generated: generated(entry.id, settingsFor(entry, preset.settings as Record<string, Value>, format.value)),
        length: TITLE_LENGTH,
      })),
    ),
  }))
  return [...shapes, ...whole]
})
const shown = computed(() => {
  const wanted = words.value.trim().toLowerCase()
  return groups.value
    .map((group) => ({
      ...group,
      entries: group.entries.filter(
        (entry) => !wanted || `${entry.name} ${group.name} ${entry.hint}`.toLowerCase().includes(wanted),
      ),
    }))
    .filter((group) => group.entries.length > 0)
})
</script>

<template>
  <GalleryDrawer name="Titles">
    <template #actions>
      <button class="key key-ember h-7" title="Type on the picture" @click="act.type()">
        <Type :size="14" /> Type
      </button>
    </template>
    <template #find>
      <input
        v-model="words"
        class="field"
        type="search"
        placeholder="Find"
        aria-label="Find a title or shape"
        @keydown.stop
      />
    </template>
    <template #chips>
      <ChipButton v-for="entry in KINDS" :key="entry" :pressed="kind === entry" @click="kind = entry">
        {{ entry }}
      </ChipButton>
    </template>
    <template #filters>
      <HintLine id="titles"
        >A double click on the picture types there. Titles are clips: move, trim and fade them on the
        timeline.</HintLine
      >
    </template>
    <GallerySection v-for="group in shown" :key="group.name" :name="group.name">
      <GeneratedTile
        v-for="entry in group.entries"
        :key="entry.key"
        :name="entry.name"
        :hint="entry.hint"
        :generated="entry.generated"
        :length="entry.length"
        :format="format"
        :removable="entry.own"
        @use="act.put(entry.generated, entry.length)"
        @remove="titles.drop(entry.key)"
      />
    </GallerySection>
    <p v-if="shown.length === 0" class="mt-6 text-center text-muted">Nothing is called that.</p>
  </GalleryDrawer>
</template>
