<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import { clipEnd, formatSeconds, snapToFrame, TICKS_PER_SECOND, type Clip } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { useDesk } from '~/features/timeline/deskStore'
import { transitionAtEdge, type ClipEdge } from '~/features/timeline/edgeTransitions'
import type { Row } from '~/features/timeline/layout'
import { pointerDrag } from '~/features/ui/pointerDrag'

/**
 * Handles on the lower corners of selected pictures, clear of their names: dragged inwards, the picture comes or goes
 * over that length. Sounds have theirs on their level lines.
 */
const props = defineProps<{ rows: readonly Row[]; width: number; height: number }>()
const project = useProject()
const desk = useDesk()

/** A clip narrower than this has no room for handles beside its trims, in pixels. */
const NARROW = 44
/** How far from the corner a handle lies where nothing fades. */
const INSET = 9

interface Handle {
  key: string
  clip: Clip
  edge: ClipEdge
  /** Length of the fade, in ticks. */
  length: number
  x: number
  y: number
}

/** Length under the pointer. */
const dragged = shallowRef<{ key: string; length: number } | null>(null)
const words = ref('')

const handles = computed<Handle[]>(() => {
  const document = project.document
  if (!document) return []
  const rowOf = new Map(props.rows.map((row) => [row.track.id, row]))
  return [...desk.selection].flatMap((id) => {
    const clip = document.clips[id]
    const row = clip && rowOf.get(clip.trackId)
    if (!row || clip.stream !== null || row.track.locked || row.height < 20) return []
    const [left, right, y] = [desk.toX(clip.start), desk.toX(clipEnd(clip)), row.top + row.height - 16 - desk.scrollY]
    if (right - left < NARROW || right < 0 || left > props.width || y < 0 || y > props.height) return []
    return (['start', 'end'] as const).flatMap((edge) => {
      const there = transitionAtEdge(document.transitions, id, edge)
      // A change to a neighbour has handles of its own.
      if (there?.leftId && there.rightId) return []
      const key = `${id} ${edge}`
      const length = dragged.value?.key === key ? dragged.value.length : there ? there.before + there.after : 0
      const inward = Math.max(INSET, (length / TICKS_PER_SECOND) * desk.pixelsPerSecond)
      return [{ key, clip, edge, length, x: edge === 'start' ? left + inward : right - inward, y }]
    })
  })
})

function press(down: PointerEvent, { key, clip, edge, length }: Handle): void {
  if (down.button !== 0) return
  const { rate } = project.reel!.format
  const snap = (ticks: number) => snapToFrame(ticks, rate)
  const other = transitionAtEdge(project.document!.transitions, clip.id, edge === 'start' ? 'end' : 'start')
  const most = clip.length - (other ? (edge === 'start' ? other.before : other.after) : 0)
  const sign = edge === 'start' ? 1 : -1
  let next = length
  pointerDrag(down, {
    move(event) {
      const by = ((event.clientX - down.clientX) / desk.pixelsPerSecond) * TICKS_PER_SECOND * sign
      next = snap(Math.min(Math.max(length + by, 0), most))
      dragged.value = { key, length: next }
      words.value = next === 0 ? 'no fade' : `fade ${edge === 'start' ? 'in' : 'out'} ${formatSeconds(next)}`
    },
    done: () => next !== length && keep(clip, edge, next),
    end: () => (dragged.value = null),
  })
}

function keep(clip: Clip, edge: ClipEdge, length: number): void {
  const there = transitionAtEdge(project.document!.transitions, clip.id, edge)
  const sides = edge === 'start' ? { before: 0, after: length } : { before: length, after: 0 }
  if (length === 0) {
    if (there) project.perform({ type: 'removeTransitions', transitionIds: [there.id] })
  } else if (there) project.perform({ type: 'setTransitions', transitionIds: [there.id], set: sides })
  else {
    const ends = edge === 'start' ? { leftId: null, rightId: clip.id } : { leftId: clip.id, rightId: null }
    const fade = {
      id: crypto.randomUUID(),
      ...ends,
      ...sides,
      kind: 'dissolve',
      settings: {},
      missing: 'shorten' as const,
    }
    project.perform({ type: 'addTransitions', transitions: [fade] })
  }
}
</script>

<template>
  <button
    v-for="handle in handles"
    :key="handle.key"
    class="absolute top-0 left-0 grid size-4 cursor-ew-resize place-items-center"
    :style="{ transform: `translate(${handle.x - 8}px, ${handle.y - 1}px)` }"
    tabindex="-1"
    :aria-label="handle.edge === 'start' ? 'Drag to fade in' : 'Drag to fade out'"
    :title="handle.edge === 'start' ? 'Drag to fade in' : 'Drag to fade out'"
    :data-fade="handle.key"
    @pointerdown.stop.prevent="press($event, handle)"
  >
    <span class="block size-2 rotate-45 border border-ground bg-ivory" :class="handle.length > 0 && 'bg-lamp'" />
  </button>
  <p
    v-for="handle in handles.filter(({ key }) => key === dragged?.key)"
    :key="`words ${handle.key}`"
    class="pointer-events-none absolute top-0 left-0 rounded-sm bg-ground/90 px-1.5 py-0.5 font-mono text-[10px]"
    :style="{ transform: `translate(${handle.x + 10}px, ${handle.y + 4}px)` }"
  >
    {{ words }}
  </p>
</template>
