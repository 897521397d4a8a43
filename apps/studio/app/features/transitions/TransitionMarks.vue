<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import {
  cutOf,
  formatSeconds,
  snapToFrame,
  snapToSample,
  ticksPerFrame,
  transitionRoom,
  type Transition,
} from '@dusk/timeline'
import { pointerDrag } from '~/features/ui/pointerDrag'
import { useShortcuts } from '~/features/shortcuts/shortcutsStore'
import { useTransitions } from './transitionsStore'
import { useTransitionActions } from './useTransitionActions'
import { EDGE, headerOf, type Row } from '~/features/timeline/layout'
import { useDesk } from '~/features/timeline/deskStore'
import { useProject } from '~/features/project/projectStore'
import { trialEdit } from '~/features/project/tried'

/** Transitions on the timeline: where they begin and end, to be selected, made longer, and moved over their cut. */
const props = defineProps<{ rows: readonly Row[]; width: number; height: number }>()
const project = useProject()
const desk = useDesk()
const act = useTransitionActions()
const shortcuts = useShortcuts()
const store = useTransitions()

/** Lengths under the pointer while a mark is dragged. */
const dragged = shallowRef<{ id: string; before: number; after: number } | null>(null)
const words = ref('')

interface Mark {
  transition: Transition
  cut: number
  x: number
  w: number
  y: number
  h: number
  label: string
}
const marks = computed<Mark[]>(() => {
  const document = project.document
  if (!document) return []
  const rowOf = new Map(props.rows.map((row) => [row.track.id, row]))
  const [from, to] = [desk.scroll, desk.toTick(props.width)]
  const found: Mark[] = []
  for (const id in document.transitions) {
    const transition = document.transitions[id]!
    const row = rowOf.get(transition.trackId)
    const cut = cutOf(transition, (clip) => document.clips[clip])
    if (!row || cut === null) continue
    const { before, after } = dragged.value?.id === id ? dragged.value : transition
    if (cut + after < from || cut - before > to) continue
    const y = row.top - desk.scrollY
    if (y + row.height < 0 || y > props.height) continue
    const x = desk.toX(cut - before)
    const name = row.track.kind === 'sound' ? 'Crossfade' : act.nameOf(transition.kind)
    found.push({
      transition,
      cut,
      x,
      w: Math.max(4, desk.toX(cut + after) - x),
      y: y + headerOf(row.height),
      h: row.height - headerOf(row.height),
      label: `${name}, ${formatSeconds(before + after)}`,
    })
  }
  return found
})

function press(down: PointerEvent, mark: Mark): void {
  if (down.button !== 0) return
  const { transition, cut } = mark
  if (down.shiftKey || down.ctrlKey || down.metaKey) desk.selectTransitions([...desk.transitions, transition.id])
  else if (!desk.transitions.has(transition.id)) desk.selectTransitions([transition.id])
  const document = project.document!
  const track = document.tracks[transition.trackId]!
  if (track.locked) return
  const target = down.currentTarget as HTMLElement
  const at = down.clientX - target.getBoundingClientRect().left
  const grip =
    mark.w > 3 * EDGE
      ? at < EDGE
        ? 'start'
        : at > mark.w - EDGE
          ? 'end'
          : 'middle'
      : at < mark.w / 2
        ? 'start'
        : 'end'
  const { rate } = project.reel!.format
  const snap = (ticks: number) => (track.kind === 'sound' ? snapToSample(ticks) : snapToFrame(cut + ticks, rate) - cut)
  const clip = (id: string | null) => (id ? (document.clips[id] ?? null) : null)
  const room = transitionRoom(
    trialEdit(document),
    clip(transition.leftId),
    clip(transition.rightId),
    transition.missing,
  )
  const grain = track.kind === 'sound' ? 14_700 : Math.round(ticksPerFrame(rate))
  const begin = { before: transition.before, after: transition.after }
  let next = begin
  const move = (event: PointerEvent) => {
    const by = desk.toTick(event.clientX) - desk.toTick(down.clientX)
    const hold = (value: number, most: number) => Math.min(Math.max(snap(value), 0), most)
    // Both ends go together around the cut unless Alt is held, as it is centred.
    const even = begin.before > 0 && begin.after > 0 && !event.altKey && Math.abs(begin.before - begin.after) <= grain
    if (grip === 'middle') {
      const shift = Math.min(
        Math.max(by, -Math.min(begin.after, room.before - begin.before)),
        Math.min(begin.before, room.after - begin.after),
      )
      next = { before: hold(begin.before - shift, room.before), after: hold(begin.after + shift, room.after) }
    } else {
      const longer = grip === 'start' ? -by : by
      next = {
        before: grip === 'start' || even ? hold(begin.before + longer, room.before) : begin.before,
        after: grip === 'end' || even ? hold(begin.after + longer, room.after) : begin.after,
      }
    }
    if (next.before + next.after < grain)
      next = begin.before > 0 ? { before: grain, after: 0 } : { before: 0, after: grain }
    const full = (next.before >= room.before && begin.before > 0) || (next.after >= room.after && begin.after > 0)
    words.value = `${formatSeconds(next.before + next.after)}${full ? ', no more hidden footage' : ''}`
    dragged.value = { id: transition.id, ...next }
  }
  const done = () => {
    if (next.before !== begin.before || next.after !== begin.after)
      project.perform({ type: 'setTransitions', transitionIds: [transition.id], set: next })
  }
  pointerDrag(down, { move, done, end: () => (dragged.value = null) })
}

const menu = ref<{ x: number; y: number; transition: Transition } | null>(null)
function openMenu(event: MouseEvent, { transition }: Mark): void {
  if (!desk.transitions.has(transition.id)) desk.selectTransitions([transition.id])
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const byKey = event.clientX === 0 && event.clientY === 0
  menu.value = { x: byKey ? box.left : event.clientX, y: byKey ? box.bottom : event.clientY, transition }
}

/** What can be done with a transition, or with all that are selected. */
function menuGroups(of: Transition) {
  const ids = [...desk.transitions]
  const set = (values: Partial<Pick<Transition, 'before' | 'after' | 'missing'>>) =>
    void project.perform({ type: 'setTransitions', transitionIds: ids, set: values })
  const total = of.before + of.after
  const half = Math.round(total / 2)
  const both = of.leftId !== null && of.rightId !== null
  const sound = project.document!.tracks[of.trackId]?.kind === 'sound'
  return [
    [
      { label: 'Copy', keys: shortcuts.keyOf('arrange.copy'), run: () => void act.copy() },
      ...(store.copied
        ? [{ label: 'Paste what was copied', keys: shortcuts.keyOf('arrange.paste'), run: () => void act.paste() }]
        : []),
      ...(both && ids.length === 1 ? [{ label: 'Put it on every cut', run: () => act.copyToTrack(of) }] : []),
      ...(sound ? [] : [{ label: 'Make it the standard', run: () => void store.set({ standard: of.kind }) }]),
    ],
    both
      ? [
          { label: 'Centre it on the cut', run: () => set({ before: half, after: total - half }) },
          { label: 'Let it end at the cut', run: () => set({ before: total, after: 0 }) },
          { label: 'Let it begin at the cut', run: () => set({ before: 0, after: total }) },
          of.missing === 'hold'
            ? { label: 'Shorten it to the hidden footage', run: () => set({ missing: 'shorten' }) }
            : { label: 'Hold the edge frames', run: () => set({ missing: 'hold' }) },
        ]
      : [],
    [{ label: 'Remove', keys: shortcuts.keyOf('cut.remove'), run: () => act.remove() }],
  ]
}
</script>

<template>
  <div
    v-for="mark in marks"
    :key="mark.transition.id"
    class="absolute top-0 left-0 overflow-hidden rounded-sm border"
    :class="
      desk.transitions.has(mark.transition.id)
        ? 'border-dusk bg-dusk/30'
        : 'border-ivory/60 bg-ground/35 hover:bg-ground/20'
    "
    role="button"
    tabindex="0"
    :aria-label="mark.label"
    :aria-pressed="desk.transitions.has(mark.transition.id)"
    :title="mark.label"
    :data-transition="mark.transition.id"
    :style="{ transform: `translate(${mark.x}px, ${mark.y + 2}px)`, width: `${mark.w}px`, height: `${mark.h - 4}px` }"
    @pointerdown.stop="press($event, mark)"
    @contextmenu.prevent.stop="openMenu($event, mark)"
    @keydown.enter.prevent="desk.selectTransitions([mark.transition.id])"
  >
    <!-- One goes as the other comes: two slopes that meet. -->
    <svg
      class="pointer-events-none absolute inset-0 size-full"
      preserveAspectRatio="none"
      viewBox="0 0 100 100"
      aria-hidden="true"
    >
      <path v-if="mark.transition.leftId" d="M0 30 C45 32 55 98 100 100 L0 100 Z" class="fill-ivory/20" />
      <path v-if="mark.transition.rightId" d="M0 100 C45 98 55 32 100 30 L100 100 Z" class="fill-lamp/30" />
    </svg>
    <span class="absolute inset-y-0 left-0 w-1.5 cursor-ew-resize" /><span
      class="absolute inset-y-0 right-0 w-1.5 cursor-ew-resize"
    />
    <span
      v-if="mark.w > 54"
      class="pointer-events-none absolute top-0 left-1.5 max-w-full truncate text-[10px] leading-4 text-ivory"
      >{{ dragged?.id === mark.transition.id ? words : mark.label.split(',')[0] }}</span
    >
  </div>
  <ContextMenu
    v-if="menu"
    :place="menu"
    :groups="menuGroups(menu.transition)"
    label="What can be done with this transition"
    @close="menu = null"
  />
</template>
