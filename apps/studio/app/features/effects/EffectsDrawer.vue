<script setup lang="ts">
import Trash from '@lucide/vue/dist/esm/icons/trash.mjs'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { watchDebounced } from '@vueuse/core'
import { EFFECT_FAMILIES } from '@dusk/compositor'
import { clipEnd, planFrame, type FramePlan } from '@dusk/timeline'
import { smallSize } from '~/features/gallery/smallSize'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { useAction } from '~/features/registry/feature'
import EffectTile from './EffectTile.vue'
import { useEffects } from './effectsStore'
import { OWN_FAMILIES, tileGroups, type EffectTileEntry } from './tiles'
import { useEffectTarget } from './useEffectTarget'

/** Every picture effect with its presets, and the person's own, on the frame under the playhead: a click or a drag. */
const project = useProject()
const playhead = usePlayhead()
const effects = useEffects()
const target = useEffectTarget('picture')
/** Sources that the selected clips play. */
const sources = computed(() => [
  ...new Set(target.value.clips.flatMap((clip) => (clip.kind === 'media' ? [clip.assetId] : []))),
])
const scopes = useAction('scopes.show')
const words = ref('')
const family = ref('')
const strength = ref(100)
/** Whether it goes on every piece of the clips' sources. */
const wholeSource = ref(false)
onMounted(() => effects.load())
const FAMILY_CHOICES = [
  { value: '', label: 'All families' },
  ...Object.entries(OWN_FAMILIES).map(([value, label]) => ({ value: `:${value}`, label: label as string })),
  ...Object.entries(EFFECT_FAMILIES).map(([value, label]) => ({ value, label: label as string })),
]
const groups = computed(() => {
  const { favourites, last, looks } = effects.preferences
  return tileGroups(words.value, family.value, { favourites, last, looks: Object.values(looks) })
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
    const size = smallSize(format, 160)
    scale.value = size.scale
    const plan = planFrame(document, reelId, tick, size)
    sample.value = plan.layers.length > 0 ? plan : null
    version.value++
  },
  { debounce: 300, immediate: true },
)

function use(tile: EffectTileEntry): void {
  const { owner, ids } = target.value
  const everywhere = wholeSource.value && sources.value.length > 0
  const done = project.perform({
    type: 'addEffects',
    ...(everywhere ? { owner: 'asset', ownerIds: sources.value } : { owner, ownerIds: ids }),
    effects: tile.effects.map((one) => ({ ...one, strength: Math.round((one.strength * strength.value) / 100) })),
  })
  if (done && !tile.own) effects.used(tile.id)
}
</script>

<template>
  <GalleryDrawer name="Effects">
    <template #actions>
      <button
        class="key h-6 px-1.5 text-sm"
        :aria-pressed="effects.bareTo !== null"
        title="A line on the picture divides what it was from what it is"
        @click="effects.bareTo = effects.bareTo === null ? 0.5 : null"
      >
        before | after
      </button>
      <button class="key h-6 px-1.5 text-sm" title="Waveform, colours and histogram beside the viewer" @click="scopes">
        scopes
      </button>
    </template>
    <template #find>
      <input
        v-model="words"
        class="field"
        type="search"
        placeholder="Find: warm, blur, grain …"
        aria-label="Find an effect"
        @keydown.stop
      />
    </template>
    <template #filters>
      <ChoiceField label="Family" :value="family" :options="FAMILY_CHOICES" @change="family = $event" />
      <NumberField
        label="Strength"
        unit="%"
        :value="strength"
        :min="1"
        :max="100"
        :initial="100"
        @change="strength = $event"
      />
      <p class="text-sm text-muted">
        Goes on
        <span class="text-ivory">{{
          wholeSource && sources.length > 0 ? `every piece of ${target.words}` : target.words
        }}</span>; rest on one to see it move.
      </p>
      <label v-if="sources.length > 0" class="flex h-6 items-center gap-2 text-sm">
        <input v-model="wholeSource" type="checkbox" class="accent-ember" /> On its source, in all reels
      </label>
    </template>
    <GallerySection v-for="group in groups" :key="group.id" :name="group.name">
      <EffectTile
        v-for="tile in group.tiles"
        :key="tile.id"
        :tile="tile"
        :favourite="effects.preferences.favourites.includes(tile.id)"
        :sample="sample"
        :scale="scale"
        :strength="strength / 100"
        :version="`${version} ${strength}`"
        @use="use(tile)"
        @favourite="effects.toggleFavourite(tile.id)"
      >
        <div v-if="tile.own" class="flex items-center">
          <span class="min-w-0 flex-1 text-sm">
            <InlineName
              :value="tile.own.name"
              label="Name of the look"
              @rename="effects.renameLook(tile.own!.id, $event)"
            />
          </span>
          <button
            class="grid size-6 place-items-center text-muted hover:text-rose"
            :aria-label="`Remove ${tile.own.name}`"
            @click="effects.dropLook(tile.own!.id)"
          >
            <Trash :size="13" />
          </button>
        </div>
      </EffectTile>
    </GallerySection>
    <p v-if="groups.length === 0" class="mt-6 text-center text-muted">
      {{ family.startsWith(':') && !words ? 'None yet.' : 'Nothing is called that.' }}
    </p>
  </GalleryDrawer>
</template>
