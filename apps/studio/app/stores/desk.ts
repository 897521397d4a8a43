import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { TICKS_PER_SECOND, withLinked, type Project } from '@dusk/timeline'

/** Least and most pixels that a second takes on the timeline. */
export const ZOOM = { min: 0.02, max: 1200 }

/** How the desk stands: what is selected, how far the timeline is zoomed and scrolled. Not part of the project. */
export const useDesk = defineStore('desk', () => {
  const selection = shallowRef<ReadonlySet<string>>(new Set())
  const pixelsPerSecond = ref(40)
  /** Reel position at the left edge of the timeline, in ticks. */
  const scroll = ref(0)
  const scrollY = ref(0)
  const timelineWidth = ref(800)
  const snap = ref(true)
  /** A click on one half of a pair takes both. */
  const linked = ref(true)
  const drawer = ref<'footage' | null>('footage')

  function select(ids: Iterable<string>, project: Project | null): void {
    const wanted = linked.value && project ? withLinked(project, ids) : ids
    selection.value = new Set(wanted)
  }

  function toggle(id: string, project: Project): void {
    const group = linked.value ? withLinked(project, [id]) : [id]
    const next = new Set(selection.value)
    if (next.has(id)) group.forEach((entry) => next.delete(entry))
    else group.forEach((entry) => next.add(entry))
    selection.value = next
  }

  /** Drops from the selection what is no longer there. */
  function prune(project: Project): void {
    if ([...selection.value].some((id) => !project.clips[id]))
      selection.value = new Set([...selection.value].filter((id) => project.clips[id]))
  }

  const toX = (tick: number) => ((tick - scroll.value) / TICKS_PER_SECOND) * pixelsPerSecond.value
  const toTick = (x: number) => scroll.value + Math.round((x / pixelsPerSecond.value) * TICKS_PER_SECOND)

  /** Zooms by a factor, keeping the reel position at `x` pixels where it is. */
  function zoom(factor: number, x = timelineWidth.value / 2): void {
    const at = toTick(x)
    pixelsPerSecond.value = Math.min(ZOOM.max, Math.max(ZOOM.min, pixelsPerSecond.value * factor))
    scroll.value = Math.max(0, at - Math.round((x / pixelsPerSecond.value) * TICKS_PER_SECOND))
  }

  /** Shows everything from 0 to `length` ticks. */
  function fit(length: number): void {
    const seconds = Math.max(length / TICKS_PER_SECOND, 5)
    pixelsPerSecond.value = Math.min(ZOOM.max, Math.max(ZOOM.min, (timelineWidth.value - 48) / seconds))
    scroll.value = 0
  }

  return { selection, pixelsPerSecond, scroll, scrollY, timelineWidth, snap, linked, drawer, select, toggle, prune, toX, toTick, zoom, fit } // prettier-ignore
})
