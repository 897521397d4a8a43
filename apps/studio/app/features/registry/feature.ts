import { inject, provide, type Component, type InjectionKey, type Ref } from 'vue'
import type { Asset, Clip, Track, Transition } from '@dusk/timeline'

/** Something the desk can do, by a key, a button or a menu. */
export interface Action {
  id: string
  /** Heading it stands under in the list of shortcuts. */
  group: (typeof ACTION_GROUPS)[number]
  label: string
  run: () => void
}

/** Headings of the list of shortcuts, in their order. */
export const ACTION_GROUPS = [
  'Play',
  'Choose',
  'Cut',
  'Letter',
  'Join',
  'Sound and speed',
  'Drags do',
  'Arrange',
  'Mark and select',
  'View',
] as const

/** What the rail opens beside itself. Lower orders stand higher. */
export interface DrawerEntry {
  id: string
  label: string
  icon: Component
  component: Component
  order: number
  /** Left out while the desk is calm. */
  full?: boolean
  /** Can take the whole height beside the timeline. */
  gallery?: boolean
}

/** What is selected on the desk. */
export interface Selected {
  clips: readonly Clip[]
  transitions: readonly Transition[]
  assets: readonly Asset[]
  track: Track | null
}

/** Details of what is selected. The one with the lowest order that has something to show is shown. */
export interface DetailsEntry {
  order: number
  component: Component
  /** What the component is given, or `null` where it has nothing to show. */
  props(selected: Selected): Record<string, unknown> | null
}

/** Clips whose details are shown. */
export interface ClipsShown {
  clips: readonly Clip[]
  /** Those that are seen, not heard. */
  pictures: readonly Clip[]
  /** Those that are heard. */
  sounds: readonly Clip[]
  /** Clip time under the playhead in the first picture: where a change sets a keyframe, ticks. */
  time: number
  /** Brings the playhead to a clip time of the first picture. */
  goTo(clipTime: number): void
}

/** A part of the details of clips: in front of the settings every clip has where the order is negative, else behind. */
export interface ClipSection {
  order: number
  /** Left out while the desk is calm. */
  full?: boolean
  component: Component
  /** What the component is given, or `null` where it has nothing to show. */
  props(shown: ClipsShown): Record<string, unknown> | null
}

/** Where a menu was opened, and on what. */
export interface MenuPlace {
  x: number
  y: number
  clip: Clip | null
  trackId: string
  /** Reel position under the pointer. */
  tick: number
}

export interface MenuItem {
  label: string
  /** Action whose key is shown. */
  action?: string
  run: () => void
}

/** Items of a right-click menu that belong together. Groups of one order stand in the order of the features. */
export interface MenuGroup {
  order: number
  items: MenuItem[]
}

/** A track as it lies on screen: pixels from the top of all tracks. */
export interface TrackRow {
  track: Track
  top: number
  height: number
}

/** Where something is dragged over the timeline. */
export interface DropPlace {
  /** Pixels from the timeline's upper left corner. */
  at: { x: number; y: number }
  /** Reel position on the frame grid, drawn to what is near for something of `length` ticks. */
  start(length: number): number
  track: Track | null
  rows: readonly TrackRow[]
  input: { altKey: boolean; ctrlKey: boolean }
}

/** What would happen here: clips that would be there, in ticks, and words beside the pointer. */
export interface DropPreview {
  ghosts: readonly { trackId: string; start: number; length: number }[]
  words: string
  /** Nothing would happen; the words say why. */
  refused: boolean
}

/** What happens when things of one kind are dragged onto the timeline. */
export interface TimelineDrop {
  follow(place: DropPlace, data: Record<string, unknown>): DropPreview | null
  drop(place: DropPlace, data: Record<string, unknown>): void
}

/** Copying and pasting of something other than clips: asked before clips are. */
export interface ClipboardPart {
  /** Copies what is selected of its kind; `false` when nothing is. */
  copy(): boolean
  /** Pastes what it holds; `false` when it holds nothing. */
  paste(): boolean
  /** Something else was copied since. */
  forget(): void
}

/**
 * A part of the studio: a folder with its components, composables, store and helpers, and one of these that says where
 * it shows itself. Functions whose names begin with `use` are called once, while a component is set up.
 */
export interface Feature {
  id: string
  useActions?: () => Action[]
  /** Shipped keys of its actions, by their ids. Those of the desk's own stand in one list, in shortcuts/defaults.ts. */
  keys?: Record<string, string[]>
  drawer?: DrawerEntry
  details?: readonly DetailsEntry[]
  clipSections?: readonly ClipSection[]
  /** A part of the details of the reel. */
  reelSection?: Component
  useClipboard?: () => ClipboardPart
  useMenu?: () => (place: MenuPlace) => MenuGroup[]
  /** Drops onto the timeline, by the kind of what is dragged. */
  useDrops?: () => Record<string, TimelineDrop>
  /** Takes files that are dropped onto the timeline: where, and whether they cover what lies there. */
  useFileDrop?: (
    rows: Ref<readonly TrackRow[]>,
  ) => (items: DataTransferItemList, trackId: string | null, start: number, over: boolean) => void
  /** Opens a clip that is double-clicked; `false` leaves it to other features. */
  useOpenClip?: () => (clip: Clip) => boolean
  /** Drawn over the ruler, over the rows and beneath the rows of the timeline. */
  timeline?: {
    ruler?: Component
    overlay?: Component
    panel?: Component
    /** A switch among those of each track's head: given `track`. */
    headSwitch?: Component
    /** Beside the names of tracks, where it has asked for the room: given `track` and `height`. */
    head?: Component
  }
  /** Lies over the picture of the viewer, above what moves pictures: given `width`, `height` and `scale` in pixels. */
  viewerLayer?: Component
  /** Stands in a column beside the viewer while it is asked for. */
  viewerSide?: Component
  /** Stands over the picture of the viewer while it has something to say. */
  viewerHead?: Component
  /** Is there whenever a project is open, such as a dialog that comes up by itself. */
  desk?: Component
  /** What should be said before a reel is rendered, a sentence each. */
  useBeforeRender?: () => (reelId: string) => Promise<string[]>
  /** Pixels by which the heads of the tracks are to be wider. */
  useHeadRoom?: () => Ref<number>
}

export function defineFeature(feature: Feature): Feature {
  return feature
}

/** The features of the desk; provided by the page, so that what is built from them does not import them. */
export const FEATURES: InjectionKey<readonly Feature[]> = Symbol('features')

export function useFeatures(): readonly Feature[] {
  return inject(FEATURES, [])
}

/** The actions of the desk, set up once for all that lists or runs them; provided by `ActionScope`. */
const ACTIONS: InjectionKey<readonly Action[]> = Symbol('actions')

/** Sets every feature's actions up, for everything inside the component that calls it. */
export function provideActions(): void {
  provide(ACTIONS, allActions())
}

/** Everything that can have a key, heading by heading. */
export function useActionList(): readonly Action[] {
  return inject(ACTIONS, null) ?? allActions()
}

function allActions(): Action[] {
  const actions = useFeatures().flatMap((feature) => feature.useActions?.() ?? [])
  return ACTION_GROUPS.flatMap((group) => actions.filter((action) => action.group === group))
}

/** What an action of some feature does; nothing where the feature is not there. */
export function useAction(id: string): () => void {
  const action = useActionList().find((entry) => entry.id === id)
  return () => action?.run()
}

/** Opens what a clip shows: the first feature that knows how does it. */
export function useOpenClip(): (clip: Clip) => void {
  const openers = useFeatures().flatMap((feature) => feature.useOpenClip?.() ?? [])
  return (clip) => void openers.some((open) => open(clip))
}

/** Actions of one heading from rows of id, label and what they do. */
export function actionsOf(group: Action['group'], rows: readonly [string, string, () => void][]): Action[] {
  return rows.map(([id, label, run]) => ({ id, group, label, run }))
}
