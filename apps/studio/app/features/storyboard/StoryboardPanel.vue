<script setup lang="ts">
import { draggable, dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { combine } from '@atlaskit/pragmatic-drag-and-drop/combine'
import { computed, ref } from 'vue'
import { clipEnd, clipName, clipsOn, formatSeconds, reading, type Clip } from '@dusk/timeline'
import { rowsOf } from '~/features/timeline/layout'
import { TimelineMedia } from '~/features/timeline/strips'
import { useOpenClip } from '~/features/registry/feature'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useDesk } from '~/features/timeline/deskStore'
import { useProject } from '~/features/project/projectStore'

/** The shots of one picture track as cards in their order. Dragging a card, or Alt with an arrow, puts it elsewhere. */
const project = useProject()
const desk = useDesk()
const openClip = useOpenClip()
const playhead = usePlayhead()
const media = new TimelineMedia(() => loads.value++)
const loads = ref(0)
const chosen = ref<string | null>(null)
/** Where the dragged card would go: before this one, or `end`. */
const target = ref<string | null>(null)

const tracks = computed(() =>
  project.document
    ? rowsOf(project.document, project.reelId)
        .map((row) => row.track)
        .filter((track) => track.kind === 'picture')
        .reverse()
    : [],
)
/** The track with the most shots, unless another was chosen. */
const track = computed(() => {
  const document = project.document
  if (!document) return null
  const count = (id: string) => clipsOn(document, id).length
  const most = [...tracks.value].sort((a, b) => count(b.id) - count(a.id))[0]
  return tracks.value.find((entry) => entry.id === chosen.value) ?? most ?? null
})
const cards = computed(() => {
  const document = project.document
  if (!document || !track.value) return []
  const clips = clipsOn(document, track.value.id)
  return clips.map((clip, i) => ({
    clip,
    name: clipName(reading(document), clip).replace(/\.[^.]+$/, ''),
    gap: i > 0 ? clip.start - clipEnd(clips[i - 1]!) : clip.start,
    before: i > 0 ? clips[i - 1]! : null,
  }))
})

const stops = new Map<string, () => void>()
function card(element: unknown, id: string): void {
  stops.get(id)?.()
  stops.delete(id)
  if (!(element instanceof HTMLElement)) return
  const dropTarget = (): string | null => id
  stops.set(
    id,
    combine(
      ...(id === 'end' ? [] : [draggable({ element, getInitialData: () => ({ kind: 'card', clipId: id }) })]),
      dropTargetForElements({
        element,
        canDrop: ({ source }) => source.data.kind === 'card' && source.data.clipId !== id,
        onDragEnter: () => (target.value = dropTarget()),
        onDragLeave: () => (target.value = null),
        onDrop: ({ source }) => {
          target.value = null
          put(source.data.clipId as string, id === 'end' ? null : id)
        },
      }),
    ),
  )
}

function put(clipId: string, before: string | null): void {
  project.perform({ type: 'reorder', clipId, before })
}

function step(clip: Clip, by: 1 | -1): void {
  const place = cards.value.findIndex((entry) => entry.clip.id === clip.id)
  const before = by < 0 ? cards.value[place - 1] : cards.value[place + 2]
  if (by < 0 && !before) return
  if (by > 0 && place === cards.value.length - 1) return
  put(clip.id, before?.clip.id ?? null)
}

function key(event: KeyboardEvent, clip: Clip): void {
  const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
  if (by !== 0 && event.altKey) step(clip, by)
  else if (by !== 0) {
    const place = cards.value.findIndex((entry) => entry.clip.id === clip.id)
    document.querySelector<HTMLElement>(`[data-card="${cards.value[place + by]?.clip.id}"]`)?.focus()
  } else if (event.key === 'Enter') choose(clip)
  else return
  event.preventDefault()
  event.stopPropagation()
}

function choose(clip: Clip): void {
  desk.select([clip.id], project.document)
  playhead.goTo(clip.start)
}
</script>

<template>
  <section class="flex flex-col bg-ground" aria-label="Storyboard">
    <div v-if="tracks.length > 1" class="flex h-8 shrink-0 items-center gap-2 px-3 text-muted">
      Shots of
      <ChoiceList
        v-if="track"
        class="w-40"
        label="Track whose shots are shown"
        :value="track.id"
        :options="tracks.map(({ id, name }) => ({ value: id, label: name }))"
        @change="chosen = $event"
      />
      <span class="ml-auto">{{ cards.length }} {{ cards.length === 1 ? 'shot' : 'shots' }}</span>
    </div>
    <p v-if="cards.length === 0" class="m-auto max-w-80 text-center text-muted">
      No shots on this track yet. Double-click footage to watch it, or press Enter on it to add it to the end.
    </p>
    <ul
      v-else
      class="grid min-h-0 flex-1 grid-cols-[repeat(auto-fill,minmax(150px,1fr))] content-start gap-3 overflow-auto p-3"
    >
      <li v-for="{ clip, name, gap, before } in cards" :key="clip.id" class="relative">
        <StoryboardCut v-if="before && gap === 0" :left="before" :right="clip" />
        <span v-if="target === clip.id" class="absolute inset-y-0 -left-2 w-1 rounded-full bg-dusk" />
        <div
          :ref="(element) => card(element, clip.id)"
          class="cursor-grab overflow-hidden rounded-md border bg-panel"
          :class="desk.selection.has(clip.id) ? 'border-dusk' : 'border-line'"
          role="button"
          tabindex="0"
          :data-card="clip.id"
          :aria-label="`${name}, ${formatSeconds(clip.length)}. Alt and an arrow move it.`"
          :aria-pressed="desk.selection.has(clip.id)"
          @click="choose(clip)"
          @dblclick="openClip(clip)"
          @keydown="key($event, clip)"
        >
          <ShotPicture :clip="clip" :media="media" :loads="loads" />
          <div class="flex items-center gap-1.5 px-2 py-1">
            <span
              v-if="clip.label"
              class="size-2 shrink-0 rounded-full"
              :style="{ background: `var(--color-${clip.label})` }"
            />
            <span class="min-w-0 flex-1 truncate">{{ name }}</span>
            <span class="font-mono text-[10px] text-muted">{{ formatSeconds(clip.length) }}</span>
          </div>
          <p v-if="gap > 0" class="px-2 pb-1 text-[11px] text-lamp">{{ formatSeconds(gap) }} of nothing before it</p>
        </div>
      </li>
      <li :ref="(element) => card(element, 'end')" class="relative min-h-16">
        <span v-if="target === 'end'" class="absolute inset-y-0 left-0 w-1 rounded-full bg-dusk" />
      </li>
    </ul>
  </section>
</template>
