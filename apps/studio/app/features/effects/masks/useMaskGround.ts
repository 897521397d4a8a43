import { computed } from 'vue'
import { IDENTITY, invert, reading, sourceOf, type Clip, type Effect, type Matrix, type Point } from '@dusk/timeline'
import type { Rect } from '@dusk/compositor'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { at, outlineOf } from '~/features/timeline/outlines'
import { useDesk } from '~/features/timeline/deskStore'

/** Where a picture with an effect lies: parts of it in percent lead to reel pixels by this, and back. */
export interface MaskPlane {
  width: number
  height: number
  matrix: Matrix
  /** The owner's time under the playhead, ticks. */
  time: number
  toReel(part: Point): Point
  /** `null` where the picture is seen edge on. */
  toPart(reel: Point): Point | null
}

const NO_WORDS: ReadonlyMap<string, Rect> = new Map()

/** Of an effect, the picture it acts on as it lies under the playhead; `null` where it is not seen there. */
export function useMaskGround(effect: () => Effect | null) {
  const project = useProject()
  const desk = useDesk()
  const playhead = usePlayhead()
  return computed((): MaskPlane | null => {
    const [document, reel, own] = [project.document, project.reel, effect()]
    if (!document || !reel || !own) return null
    const tick = playhead.tick.value
    let [matrix, width, height, time]: [Matrix, number, number, number] = [
      IDENTITY,
      reel.format.width,
      reel.format.height,
      tick,
    ]
    if (own.owner === 'clip' || own.owner === 'asset') {
      const clip: Clip | undefined =
        own.owner === 'clip'
          ? document.clips[own.ownerId]
          : [...desk.selection]
              .map((id) => document.clips[id])
              .find((one) => one?.kind === 'media' && one.assetId === own.ownerId)
      if (!clip || tick < clip.start || tick >= clip.start + clip.length) return null
      const outline = outlineOf(document, clip, tick, NO_WORDS)
      const picture = sourceOf(reading(document), clip)?.picture
      if (!outline || !picture) return null
      ;[matrix, width, height, time] = [outline.matrix, picture.width, picture.height, clip.head + tick - clip.start]
    }
    const back = invert(matrix)
    return {
      ...{ width, height, matrix, time },
      toReel: ([x, y]) => at(matrix, (x * width) / 100, (y * height) / 100),
      toPart: ([x, y]) => {
        if (!back) return null
        const [u, v] = at(back, x, y)
        return [(u / width) * 100, (v / height) * 100]
      },
    }
  })
}
