import type { Ref } from 'vue'
import { isAnimated, type Animated, type Clip, type Key, type Point } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import type { Patch } from './useViewerDrag'

/** Drags of the path that a picture goes along: its keyframes and how it bends there. */
export function usePathDrag(
  scale: Ref<number>,
  words: Ref<string>,
  follow: (down: PointerEvent, make: (event: PointerEvent) => { clip: Clip; set: Patch }[]) => void,
) {
  const project = useProject()

  /** Moves one keyframe of a path. */
  function movePoint(down: PointerEvent, clip: Clip, keyAt: number): void {
    const { position } = clip.params as { position?: Animated<Point> }
    if (!position || !isAnimated(position)) return
    const begin = position.keys.find((key) => key.at === keyAt)!.value
    follow(down, (event) => {
      const to: Point = [
        begin[0] + (event.clientX - down.clientX) / scale.value,
        begin[1] + (event.clientY - down.clientY) / scale.value,
      ]
      const keys = position.keys.map((key) =>
        key.at === keyAt ? { ...key, value: [Math.round(to[0]), Math.round(to[1])] as Point } : key,
      )
      return [{ clip, set: { position: { keys } as Animated } }]
    })
  }

  /** Puts another bend at a keyframe of a path; `null` makes it straight there. */
  const bent = (keys: readonly Key<Point>[], keyAt: number, bend: Point | null): Animated =>
    ({
      keys: keys.map((key) =>
        key.at === keyAt ? { at: key.at, value: key.value, ease: key.ease, ...(bend ? { bend } : {}) } : key,
      ),
    }) as Animated

  /** Bends a path at a keyframe: it leaves towards the pointer, or with `side` −1 arrives from there. */
  function bendPoint(down: PointerEvent, clip: Clip, keyAt: number, side: 1 | -1): void {
    const { position } = clip.params as { position?: Animated<Point> }
    if (!position || !isAnimated(position)) return
    const [bx, by] = position.keys.find((key) => key.at === keyAt)!.bend ?? [0, 0]
    follow(down, (event) => {
      const round = (value: number) => Math.round(value * 10) / 10
      const [dx, dy] = [(event.clientX - down.clientX) / scale.value, (event.clientY - down.clientY) / scale.value]
      const bend: Point = [round(bx + side * dx), round(by + side * dy)]
      words.value = `bend ${Math.round(Math.hypot(...bend))} px`
      return [{ clip, set: { position: bent(position.keys, keyAt, bend) } }]
    })
  }

  /** Rounds a corner of a path off, along the line between its neighbours, or makes it a corner again. */
  function toggleBend(clip: Clip, keyAt: number): void {
    const { position } = clip.params as { position?: Animated<Point> }
    if (!position || !isAnimated(position)) return
    const { keys } = position
    const i = keys.findIndex((key) => key.at === keyAt)
    const [before, after] = [keys[Math.max(i - 1, 0)]!.value, keys[Math.min(i + 1, keys.length - 1)]!.value]
    const along: Point = [Math.round((after[0] - before[0]) / 4), Math.round((after[1] - before[1]) / 4)]
    project.perform({
      type: 'setEach',
      clips: [{ clipId: clip.id, set: { position: bent(keys, keyAt, keys[i]!.bend ? null : along) as never } }],
    })
  }

  return { movePoint, bendPoint, toggleBend }
}
