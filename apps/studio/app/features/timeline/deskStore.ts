import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { TICKS_PER_SECOND, withLinked, type Project, type Scope } from '@dusk/timeline'
import { withGroups } from './ties'

/** Least and most pixels that a second takes on the timeline. */
export const ZOOM = { min: 0.02, max: 1200 }

/** Pixels between the edge of the timeline and a place that was brought into view. */
const REVEALED = 60

/** What a drag on a clip does. */
export type Tool = 'move' | 'ripple' | 'roll' | 'slip' | 'slide' | 'stretch'

/** How the desk stands: what is selected, how far the timeline is zoomed and scrolled. Not part of the project. */
export const useDesk = defineStore('desk', () => {
  const selection = shallowRef<ReadonlySet<string>>(new Set())
  /** The track whose settings the details show. */
  const trackId = ref<string | null>(null)
  /** Selected transitions; never together with clips. */
  const transitions = shallowRef<ReadonlySet<string>>(new Set())
  const pixelsPerSecond = ref(40)
  /** Reel position at the left edge of the timeline, in ticks. */
  const scroll = ref(0)
  const scrollY = ref(0)
  const timelineWidth = ref(800)
  const snap = ref(true)
  /** A click on one half of a pair takes both. */
  const linked = ref(true)
  const keptDrawer = useLocalStorage('dusk.drawer', 'footage')
  /** Id of the drawer that is open; remembered in this browser. */
  const drawer = computed<string | null>({
    get: () => keptDrawer.value || null,
    set: (id) => (keptDrawer.value = id ?? ''),
  })
  /** Galleries take the whole height beside the timeline; remembered in this browser. */
  const drawerTall = useLocalStorage('dusk.drawerTall', false)
  /** Shows only what a first film needs; remembered in this browser. */
  const calm = useLocalStorage('dusk.calm', false)
  const tool = ref<Tool>('move')
  /** Tracks that move along when time opens or closes. */
  const scope = ref<Scope>('unlocked')
  /** A marked stretch of the reel, in ticks: what loops, what is cut out, where a source goes. */
  const range = shallowRef<{ from: number; to: number } | null>(null)
  const looping = ref(false)
  /** Something else than moving pictures is done on the viewer's picture: its handles keep out of the way. */
  const pictureTaken = ref(false)
  const view = ref<'timeline' | 'storyboard'>('timeline')
  /** Sources selected in the library. */
  const assets = shallowRef<ReadonlySet<string>>(new Set())

  /** Opens a drawer, or closes it when it is the open one. */
  function toggleDrawer(id: string): void {
    drawer.value = drawer.value === id ? null : id
  }

  function select(ids: Iterable<string>, project: Project | null): void {
    const tied = project ? withGroups(project, ids) : ids
    selection.value = new Set(linked.value && project ? withLinked(project, tied) : tied)
    transitions.value = new Set()
    trackId.value = null
  }

  /** Shows a track's own settings. */
  function selectTrack(id: string): void {
    select([], null)
    assets.value = new Set()
    trackId.value = id
  }

  function selectTransitions(ids: Iterable<string>): void {
    transitions.value = new Set(ids)
    if (transitions.value.size > 0) {
      selection.value = new Set()
      trackId.value = null
    }
  }

  function toggle(id: string, project: Project): void {
    const tied = withGroups(project, [id])
    const group = linked.value ? withLinked(project, tied) : tied
    const next = new Set(selection.value)
    if (next.has(id)) group.forEach((entry) => next.delete(entry))
    else group.forEach((entry) => next.add(entry))
    selection.value = next
    transitions.value = new Set()
  }

  /** Drops from the selection what is no longer there. */
  function prune(project: Project): void {
    if ([...selection.value].some((id) => !project.clips[id]))
      selection.value = new Set([...selection.value].filter((id) => project.clips[id]))
    if ([...transitions.value].some((id) => !project.transitions[id]))
      transitions.value = new Set([...transitions.value].filter((id) => project.transitions[id]))
  }

  const toX = (tick: number) => ((tick - scroll.value) / TICKS_PER_SECOND) * pixelsPerSecond.value
  const toTick = (x: number) => scroll.value + Math.round((x / pixelsPerSecond.value) * TICKS_PER_SECOND)

  /** Ticks that so many pixels of the timeline stand for. */
  const wide = (pixels: number) => Math.round((pixels / pixelsPerSecond.value) * TICKS_PER_SECOND)

  /** Farthest that there is something to scroll to: the end of a reel comes to the middle. */
  const mostScroll = (length: number) => Math.max(0, length - wide(timelineWidth.value / 2))

  /** Scrolls to a place, as far as there is something to see; never back from where it is already. */
  function scrollTo(tick: number, length: number): void {
    scroll.value = Math.max(0, Math.min(tick, Math.max(scroll.value, mostScroll(length))))
  }

  /**
   * Zooms by a factor, keeping a place of the reel where it is on the screen; one that is out of sight comes to the
   * middle.
   * @param at the place, in ticks: the playhead's, or that under the pointer
   * @param length up to which there is something to see: beyond it there is nothing to zoom at
   */
  function zoom(factor: number, at: number, length: number): void {
    const seen = toX(at)
    const x = seen >= 0 && seen <= timelineWidth.value ? seen : timelineWidth.value / 2
    pixelsPerSecond.value = Math.min(ZOOM.max, Math.max(ZOOM.min, pixelsPerSecond.value * factor))
    scroll.value = Math.max(0, Math.min(at - wide(x), mostScroll(length)))
  }

  /** Brings a place into view that is not: to the middle, or near the edge that it lies beyond where that is close. */
  function reveal(tick: number): void {
    const x = toX(tick)
    const margin = Math.min(REVEALED, timelineWidth.value / 4)
    if (x >= 0 && x <= timelineWidth.value) return
    const near = x > -timelineWidth.value / 2 && x < timelineWidth.value * 1.5
    const to = !near ? timelineWidth.value / 2 : x < 0 ? margin : timelineWidth.value - margin
    scroll.value = Math.max(0, tick - wide(to))
  }

  /** Shows everything between two places, in ticks. */
  function fit(to: number, from = 0): void {
    const seconds = Math.max((to - from) / TICKS_PER_SECOND, from > 0 ? 0.5 : 5)
    pixelsPerSecond.value = Math.min(ZOOM.max, Math.max(ZOOM.min, (timelineWidth.value - 48) / seconds))
    scroll.value = from > 0 ? Math.max(0, from - Math.round((24 / pixelsPerSecond.value) * TICKS_PER_SECOND)) : 0
  }

  /** Marks one end of the range; an end that would make it empty takes the other away. */
  function markRange(edge: 'in' | 'out', tick: number, length: number): void {
    const now = range.value ?? { from: 0, to: length }
    const next = edge === 'in' ? { from: tick, to: now.to } : { from: now.from, to: tick }
    if (next.to <= next.from)
      range.value = edge === 'in' ? { from: tick, to: Math.max(length, tick + 1) } : { from: 0, to: tick }
    else range.value = next
  }

  return {
    pictureTaken,
    trackId,
    selectTrack,
    selection,
    transitions,
    selectTransitions,
    pixelsPerSecond,
    scroll,
    scrollY,
    timelineWidth,
    snap,
    linked,
    drawer,
    drawerTall,
    calm,
    toggleDrawer,
    tool,
    scope,
    range,
    looping,
    view,
    assets,
    markRange,
    select,
    toggle,
    prune,
    toX,
    toTick,
    zoom,
    scrollTo,
    reveal,
    fit,
  }
})
