<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, shallowRef, watch } from 'vue'
import { clipName, formatSeconds, formatTimecode, reading, TICKS_PER_SECOND, type Clip } from '@dusk/timeline'
import { firstVisible, THINNEST, type Row } from './layout'
import { useDesk } from './deskStore'
import { useProject } from '~/features/project/projectStore'

/**
 * Clips on screen as real elements over their picture, for keyboard and screen reader. The pointer finds clips by
 * where they are, so these may come a moment later when many of them move at once.
 */
const props = defineProps<{
  rows: readonly Row[]
  lanes: ReadonlyMap<string, readonly Clip[]>
  changed: ReadonlyMap<string, Clip>
  width: number
  height: number
}>()
const emit = defineEmits<{ menu: [event: MouseEvent, clip: Clip] }>()
const project = useProject()
const desk = useDesk()

/** Elements up to which they follow every step of a zoom. */
const FEW = 120
const SETTLE_MS = 90

const view = shallowRef({ scroll: desk.scroll, scrollY: desk.scrollY, pixelsPerSecond: desk.pixelsPerSecond })
const take = () => (view.value = { scroll: desk.scroll, scrollY: desk.scrollY, pixelsPerSecond: desk.pixelsPerSecond })
const settle = useDebounceFn(take, SETTLE_MS)
watch(
  () => [desk.scroll, desk.scrollY, desk.pixelsPerSecond],
  () => {
    if (visible.value.length <= FEW) take()
    else void settle()
  },
)

const visible = computed(() => {
  if (!project.document) return []
  const { scroll, scrollY, pixelsPerSecond } = view.value
  const perTick = pixelsPerSecond / TICKS_PER_SECOND
  const right = scroll + props.width / perTick
  const entities = reading(project.document)
  const rate = project.reel?.format.rate ?? { num: 30, den: 1 }
  const found: { clip: Clip; x: number; y: number; w: number; h: number; label: string }[] = []
  for (const row of props.rows) {
    // Rows out of sight have none: a hundred tracks cost what is seen of them.
    if (row.top + row.height < scrollY || row.top > scrollY + props.height) continue
    const clips = props.lanes.get(row.track.id) ?? []
    for (let i = firstVisible(clips, scroll); i < clips.length && clips[i]!.start < right; i++) {
      const clip = props.changed.get(clips[i]!.id) ?? clips[i]!
      const x = (clip.start - scroll) * perTick
      const w = clip.length * perTick
      if (w < THINNEST && !desk.selection.has(clip.id)) continue
      const from = formatTimecode(clip.start, rate)
      const label = `${clipName(entities, clip)} on ${row.track.name}, from ${from}, ${formatSeconds(clip.length)}`
      found.push({ clip, x, y: row.top - scrollY, w: Math.max(2, w), h: row.height, label })
    }
  }
  return found
})

function key(event: KeyboardEvent, clip: Clip): void {
  if (event.key === 'ContextMenu' || (event.key === 'F10' && event.shiftKey)) {
    event.preventDefault()
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
    return emit('menu', new MouseEvent('contextmenu', { clientX: box.left + 12, clientY: box.top + 12 }), clip)
  }
  if (event.key !== 'Enter') return
  event.preventDefault()
  if (event.shiftKey) desk.toggle(clip.id, project.document!)
  else desk.select([clip.id], project.document)
}
</script>

<template>
  <div
    v-for="entry in visible"
    :key="entry.clip.id"
    :data-clip="entry.clip.id"
    class="absolute rounded-sm"
    role="button"
    tabindex="0"
    :aria-label="entry.label"
    :aria-pressed="desk.selection.has(entry.clip.id)"
    :style="{
      transform: `translate(${entry.x}px, ${entry.y}px)`,
      width: `${entry.w}px`,
      height: `${entry.h}px`,
    }"
    @keydown="key($event, entry.clip)"
  />
</template>
