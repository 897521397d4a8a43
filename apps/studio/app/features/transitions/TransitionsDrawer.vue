<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { FAMILIES, TRANSITIONS, type TransitionKind } from '@dusk/compositor'
import { planFrame, secondsToTicks, type FramePlan, type TransitionLayer } from '@dusk/timeline'
import { useTransitionActions } from './useTransitionActions'
import { usePlayhead } from '~/features/player/usePlayhead'
import { cutsOn, meantCuts, transitionFor, type Cut } from './cuts'
import { useDesk } from '~/features/timeline/deskStore'
import { useProject } from '~/features/project/projectStore'
import { smallSize } from '~/features/gallery/smallSize'
import { tried } from '~/features/project/tried'
import { useTransitions } from './transitionsStore'

/** Every transition, to be found, tried on the person's own shots, and put on a cut. */
const project = useProject()
const desk = useDesk()
const store = useTransitions()
const act = useTransitionActions()
const playhead = usePlayhead()
void store.load()
const words = ref('')
const family = ref('')
const FAMILY_CHOICES = [
  { value: '', label: 'All families' },
  ...Object.entries(FAMILIES).map(([value, label]) => ({ value, label: label as string })),
]
const KINDS = TRANSITIONS.map(({ id, name }) => ({ value: id, label: name }))

const groups = computed(() => {
  const wanted = words.value.trim().toLowerCase()
  const fits = (kind: TransitionKind) =>
    !wanted || `${kind.name} ${kind.hint} ${FAMILIES[kind.family]}`.toLowerCase().includes(wanted)
  const found = TRANSITIONS.filter(fits)
  const kept = found.filter((kind) => store.preferences.favourites.includes(kind.id))
  const list = Object.entries(FAMILIES).map(([id, name]) => ({
    id,
    name: name as string,
    kinds: found.filter((kind) => kind.family === id),
  }))
  return [{ id: 'favourites', name: 'Favourites', kinds: kept }, ...list].filter(
    (entry) => entry.kinds.length > 0 && (!family.value || entry.id === family.value),
  )
})

/** The cut that the gallery shows: that of the selected transition, the one meant, or the first of the reel. */
const cut = computed<Cut | null>(() => {
  const document = project.document
  if (!document) return null
  const chosen = [...desk.transitions]
    .map((id) => document.transitions[id])
    .find((entry) => entry?.leftId && entry.rightId)
  if (chosen) {
    const [left, right] = [document.clips[chosen.leftId!]!, document.clips[chosen.rightId!]!]
    return { trackId: chosen.trackId, left, right, at: right.start }
  }
  const picture = (entry: Cut) => entry.left && entry.right && document.tracks[entry.trackId]?.kind === 'picture'
  const meant = meantCuts(document, project.reelId, desk.selection, playhead.tick.value).find(picture)
  if (meant) return meant
  for (const track of Object.values(document.tracks)) {
    const found = track.reelId === project.reelId ? cutsOn(document, track.id).find(picture) : undefined
    if (found) return found
  }
  return null
})
/** Names the shots of the cut, so that small changes elsewhere do not draw the gallery anew. */
const shots = computed(
  () => `${cut.value?.left?.id} ${cut.value?.right?.id} ${project.reel?.format.width}x${project.reel?.format.height}`,
)
const sample = shallowRef<FramePlan | null>(null)
watch(
  [shots, () => Object.values(project.sources).filter((source) => source.state === 'ready').length],
  () => {
    sample.value = null
    if (!cut.value || !project.document) return
    const made = { ...transitionFor(cut.value, 'dissolve', secondsToTicks(1), false), missing: 'hold' as const }
    const joined = tried(project.document!, { type: 'addTransitions', transitions: [made] })
    if (!joined) return
    const plan = planFrame(joined.project, project.reelId, cut.value.at, smallSize(project.reel!.format, 128))
    const layer = plan.layers.find((entry): entry is TransitionLayer => entry.kind === 'transition')
    if (layer) sample.value = { ...plan, layers: [layer], passThrough: false }
  },
  { immediate: true },
)
const chosenKind = computed(() => {
  const [id] = desk.transitions
  return id ? project.document?.transitions[id]?.kind : undefined
})
</script>

<template>
  <GalleryDrawer name="Transitions">
    <template #find>
      <input
        v-model="words"
        class="field"
        type="search"
        placeholder="Find: wipe, blur, clock …"
        aria-label="Find a transition"
        @keydown.stop
      />
    </template>
    <template #filters>
      <ChoiceField label="Family" :value="family" :options="FAMILY_CHOICES" @change="family = $event" />
      <NumberField
        label="Length"
        unit="s"
        :value="store.preferences.seconds"
        :min="0.05"
        :max="60"
        :step="0.1"
        :digits="2"
        :initial="1"
        @change="store.set({ seconds: $event })"
      />
      <HintLine id="transitions"
        >Click one to put it on the cut nearest to the playhead, or drag it to any cut, or to the start or end of a
        clip.</HintLine
      >
    </template>
    <p v-if="!cut" class="mx-4 mt-6 text-center text-muted">
      Put two clips side by side, and each transition shows itself on them here.
    </p>
    <GallerySection v-for="group in groups" :key="group.id" :name="group.name">
      <TransitionTile
        v-for="kind in group.kinds"
        :key="kind.id"
        :kind="kind"
        :sample="sample"
        :version="`${shots} ${sample !== null}`"
        :favourite="store.preferences.favourites.includes(kind.id)"
        :standard="store.preferences.standard === kind.id"
        :chosen="chosenKind === kind.id"
        @use="act.use(kind.id)"
        @favour="store.toggleFavourite(kind.id)"
      />
    </GallerySection>
    <p v-if="groups.length === 0" class="mt-6 text-center text-muted">Nothing is called that.</p>
    <div v-else class="pt-4">
      <ChoiceField
        label="The key puts in"
        :value="store.preferences.standard"
        :options="KINDS"
        @change="store.set({ standard: $event })"
      />
    </div>
  </GalleryDrawer>
</template>
