<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import { watchDebounced } from '@vueuse/core'
import { EFFECT_FAMILIES, PICTURE_EFFECTS } from '@dusk/compositor'
import { clipEnd, planFrame, type FramePlan, type Params } from '@dusk/timeline'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import EffectTile from './EffectTile.vue'
import { useEffectTarget } from './useEffectTarget'

/** Every picture effect with its presets, on the frame under the playhead: put on by a click or a drag. */
const project = useProject()
const playhead = usePlayhead()
const target = useEffectTarget()
const words = ref('')
const family = ref('')
const FAMILY_CHOICES = [
  { value: '', label: 'All families' },
  ...Object.entries(EFFECT_FAMILIES).map(([value, label]) => ({ value, label: label as string })),
]

const groups = computed(() => {
  const wanted = words.value.trim().toLowerCase()
  return Object.entries(EFFECT_FAMILIES).flatMap(([id, name]) => {
    if (family.value && family.value !== id) return []
    const tiles = PICTURE_EFFECTS.filter((kind) => kind.family === id).flatMap((kind) => {
      const all = [
        { id: kind.id, kind, name: kind.name, settings: {} as Params },
        ...kind.presets.map((entry) => ({ id: entry.id, kind, name: entry.name, settings: entry.settings })),
      ]
      const whole = `${kind.name} ${kind.hint} ${name}`.toLowerCase().includes(wanted)
      return whole ? all : all.filter((tile) => tile.name.toLowerCase().includes(wanted))
    })
    return tiles.length > 0 ? [{ id, name, tiles }] : []
  })
})

const sample = shallowRef<FramePlan | null>(null)
const scale = ref(1)
/** Counts the frames that were taken: tiles are drawn anew with each. */
const version = ref(0)
/** What is shown: the frame under the playhead, or where that is beside the selected picture, its middle. */
const shownAt = computed(() => {
  const clip = target.value.owner === 'clip' ? project.document?.clips[target.value.ids[0]!] : undefined
  const tick = playhead.tick.value
  return !clip || (tick >= clip.start && tick < clipEnd(clip)) ? tick : clip.start + Math.floor(clip.length / 2)
})
/** That frame, small; not anew for each frame of play. */
watchDebounced(
  () => [project.document, project.reelId, shownAt.value] as const,
  ([document, reelId, tick]) => {
    const format = document?.reels[reelId]?.format
    if (!document || !format) return void (sample.value = null)
    scale.value = 160 / Math.max(format.width, format.height)
    const even = (value: number) => Math.max(2, Math.round((value * scale.value) / 2) * 2)
    const plan = planFrame(document, reelId, tick, { width: even(format.width), height: even(format.height) })
    sample.value = plan.layers.length > 0 ? plan : null
    version.value++
  },
  { debounce: 300, immediate: true },
)

function use(kind: string, settings: Params): void {
  project.perform({
    type: 'addEffects',
    owner: target.value.owner,
    ownerIds: target.value.ids,
    effects: [{ domain: 'picture', kind, settings, strength: 100 }],
  })
}
</script>

<template>
  <section class="flex h-full flex-col bg-panel" aria-label="Effects">
    <header class="space-y-2 px-3 pt-3">
      <h2 class="font-display text-lg font-semibold">Effects</h2>
      <input
        v-model="words"
        class="field"
        type="search"
        placeholder="Find: warm, blur, grain …"
        aria-label="Find an effect"
        @keydown.stop
      />
      <ChoiceField label="Family" :value="family" :options="FAMILY_CHOICES" @change="family = $event" />
      <p class="text-sm text-muted">
        Goes on <span class="text-ivory">{{ target.words }}</span>; rest on one to see it move.
      </p>
    </header>
    <div class="min-h-0 flex-1 overflow-auto px-3 pb-3">
      <section v-for="group in groups" :key="group.id" class="pt-3" :aria-label="group.name">
        <h3 class="pb-1.5 text-sm font-semibold text-muted">{{ group.name }}</h3>
        <ul class="grid grid-cols-[repeat(auto-fill,minmax(92px,1fr))] gap-2">
          <EffectTile
            v-for="tile in group.tiles"
            :key="tile.id"
            :kind="tile.kind"
            :name="tile.name"
            :settings="tile.settings"
            :sample="sample"
            :scale="scale"
            :version="`${version}`"
            @use="use(tile.kind.id, tile.settings)"
          />
        </ul>
      </section>
      <p v-if="groups.length === 0" class="mt-6 text-center text-muted">Nothing is called that.</p>
    </div>
  </section>
</template>
