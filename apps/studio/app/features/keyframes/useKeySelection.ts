import { computed, ref, shallowRef } from 'vue'
import {
  isAnimated,
  moveKeys,
  pasteKeys,
  removeKeys,
  snapToFrame,
  ticksPerFrame,
  type Animated,
  type Clip,
  type Key,
} from '@dusk/timeline'
import { animatedParams, type AnimatedParam } from './keyframes'
import { useProject } from '~/features/project/projectStore'

/** One keyframe by its setting and its moment in clip time. */
export interface KeyPlace {
  key: string
  at: number
}

/** Keyframes that were copied, by setting; they outlive the clip they came from. */
const copied = shallowRef<ReadonlyMap<string, readonly Key[]>>(new Map())

/** Which keyframes of a clip are selected, and what is done with them together. */
export function useKeySelection(clip: () => Clip, now: () => number) {
  const project = useProject()
  const rows = computed(() => animatedParams(clip()))
  const chosen = ref<KeyPlace[]>([])
  /** Values as they are tried out while something is dragged, by setting. */
  const tried = shallowRef<ReadonlyMap<string, Animated>>(new Map())

  /** Selected keyframes that are there, by setting. */
  const bySetting = computed(() => {
    const found = new Map<string, Set<number>>()
    for (const row of rows.value) {
      const moments = row.value.keys.map((key) => key.at)
      const mine = chosen.value.filter(({ key, at }) => key === row.param.key && moments.includes(at))
      if (mine.length > 0) found.set(row.param.key, new Set(mine.map(({ at }) => at)))
    }
    return found
  })
  const places = computed(() =>
    [...bySetting.value].flatMap(([key, moments]) => [...moments].map((at): KeyPlace => ({ key, at }))),
  )
  const has = ({ key, at }: KeyPlace) => bySetting.value.get(key)?.has(at) ?? false
  /** First and last moment of what is selected, when that is more than one. */
  const span = computed(() => {
    const moments = places.value.map(({ at }) => at)
    const [from, to] = [Math.min(...moments), Math.max(...moments)]
    return moments.length > 1 && to > from ? { from, to } : null
  })

  function select(wanted: readonly KeyPlace[], add = false): void {
    chosen.value = add
      ? [...chosen.value.filter((old) => !wanted.some((one) => same(one, old))), ...wanted]
      : [...wanted]
  }

  /** A press on one: alone, or with Shift or Control taken in or out. */
  function press(place: KeyPlace, toggle: boolean): void {
    if (!toggle) {
      if (!has(place)) select([place])
    } else if (has(place)) chosen.value = places.value.filter((old) => !same(old, place))
    else select([...places.value, place])
  }

  const same = (a: KeyPlace, b: KeyPlace) => a.key === b.key && a.at === b.at

  /** Keeps new values of settings as one step. */
  function keep(values: ReadonlyMap<string, Animated>): void {
    const own = (ofTitle: boolean) =>
      Object.fromEntries(
        [...values].filter(([key]) => rows.value.find((row) => row.param.key === key)?.ofTitle === ofTitle),
      ) as never
    const [set, style] = [own(false), own(true)]
    const clipIds = [clip().id]
    if (Object.keys(style).length > 0) project.perform({ type: 'setTitle', clipIds, set: {}, style, params: set })
    else project.perform({ type: 'setParams', clipIds, set })
  }

  const valueOf = (row: AnimatedParam): { keys: Key[] } => {
    const value = tried.value.get(row.param.key)
    return value !== undefined && isAnimated(value) ? value : row.value
  }

  /** What moving the selected keyframes comes to: values by setting, and where the selection is then. */
  function moved(to: (at: number) => number): { values: Map<string, Animated>; places: KeyPlace[] } {
    const values = new Map<string, Animated>()
    const next: KeyPlace[] = []
    for (const row of rows.value) {
      const moments = bySetting.value.get(row.param.key)
      if (!moments) continue
      values.set(row.param.key, moveKeys(row.value, moments, to))
      for (const at of moments) next.push({ key: row.param.key, at: to(at) })
    }
    return { values, places: next }
  }

  function apply({ values, places: next }: ReturnType<typeof moved>): void {
    keep(values)
    chosen.value = next
  }

  /** Moves them by whole frames. */
  function nudge(frames: number): void {
    const by = Math.round(frames * ticksPerFrame(project.reel!.format.rate))
    if (places.value.length > 0) apply(moved((at) => at + by))
  }

  function remove(): void {
    if (places.value.length === 0) return
    const values = new Map<string, Animated>()
    for (const row of rows.value) {
      const moments = bySetting.value.get(row.param.key)
      if (moments) values.set(row.param.key, removeKeys(row.value, moments, now()))
    }
    keep(values)
    chosen.value = []
  }

  /** With copies of the selected ones beside them, moved by `by`. */
  function duplicated(by: number): ReturnType<typeof moved> {
    const values = new Map<string, Animated>()
    const next: KeyPlace[] = []
    for (const row of rows.value) {
      const moments = bySetting.value.get(row.param.key)
      if (!moments) continue
      const keys = row.value.keys.filter((key) => moments.has(key.at))
      values.set(row.param.key, pasteKeys(row.value, keys, Math.min(...moments) + by))
      for (const at of moments) next.push({ key: row.param.key, at: at + by })
    }
    return { values, places: next }
  }

  function copy(): void {
    copied.value = new Map(
      rows.value.flatMap((row) => {
        const moments = bySetting.value.get(row.param.key)
        return moments ? [[row.param.key, row.value.keys.filter((key) => moments.has(key.at))] as const] : []
      }),
    )
  }

  /** Puts what was copied in at the playhead; settings that this clip does not have are left out. */
  function paste(): boolean {
    const all = [...copied.value.values()].flat()
    if (all.length === 0) return false
    const first = Math.min(...all.map((key) => key.at))
    const values = new Map<string, Animated>()
    const next: KeyPlace[] = []
    for (const row of rows.value) {
      const keys = copied.value.get(row.param.key)
      if (!keys) continue
      const start = now() + Math.min(...keys.map((key) => key.at)) - first
      values.set(row.param.key, pasteKeys(row.value, keys, start))
      for (const key of keys) next.push({ key: row.param.key, at: key.at - first + now() })
    }
    if (values.size === 0) return false
    apply({ values, places: next })
    return true
  }

  /** Where a keyframe at `at` comes to lie when the span is stretched from one end; whole frames of the reel. */
  function scaledTo(edge: 'from' | 'to', end: number): (at: number) => number {
    const { from, to } = span.value!
    const [still, begin] = edge === 'to' ? [from, to] : [to, from]
    const factor = (end - still) / (begin - still)
    const { start, head } = clip()
    const onFrame = (at: number) => snapToFrame(start + at - head, project.reel!.format.rate) - start + head
    return (at) => onFrame(Math.round(still + (at - still) * factor))
  }

  /** Shows values that are not kept yet; an empty map shows what is. */
  function tryOut(values: ReadonlyMap<string, Animated>): void {
    tried.value = values
  }

  return {
    rows,
    tried,
    tryOut,
    places,
    bySetting,
    span,
    has,
    select,
    press,
    keep,
    valueOf,
    moved,
    duplicated,
    apply,
    nudge,
    remove,
    copy,
    paste,
    scaledTo,
  }
}

export type KeySelection = ReturnType<typeof useKeySelection>
