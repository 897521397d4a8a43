import type { Transition } from '@dusk/timeline'
import { fadeGain } from '@dusk/sound'
import { fadeShape, type ClipEdge } from '~/features/timeline/edgeTransitions'

export const lengthOf = ({ before, after }: Transition): number => before + after

/** The corner handle of a fade and the curve above which the sound is taken away. */
export function fadeHandle(edge: ClipEdge, kind: string, x: number, w: number, px: number, top: number, h: number) {
  const end = edge === 'start' ? x + px : x + w - px
  if (px < 1) return { edge, x: end, w: px, path: '' }
  const from = edge === 'start' ? x : x + w
  const steps = 16
  const curve = Array.from({ length: steps + 1 }, (_, i) => {
    const t = i / steps
    const at = from + (end - from) * t
    return `${at.toFixed(1)} ${(top + (1 - fadeGain(fadeShape(kind), t)) * h).toFixed(1)}`
  })
  return { edge, x: end, w: px, path: `M${from} ${top}L${curve.join('L')}Z` }
}
