import { SOUND_FADES, type Clip, type Project, type SoundFade, type Transition } from '@dusk/timeline'
import { fadeGain } from '@dusk/sound'

export type FadeEdge = 'start' | 'end'

/** Transitions by the clip's end they lie on, for each state of a document. */
const byEdge = new WeakMap<Project['transitions'], Map<string, Transition>>()

/** The transition at a clip's start or end. */
export function fadeOf(
  { transitions }: Pick<Project, 'transitions'>,
  clip: Clip,
  edge: FadeEdge,
): Transition | undefined {
  let found = byEdge.get(transitions)
  if (!found) {
    found = new Map()
    for (const entry of Object.values(transitions)) {
      if (entry.leftId) found.set(`end ${entry.leftId}`, entry)
      if (entry.rightId) found.set(`start ${entry.rightId}`, entry)
    }
    byEdge.set(transitions, found)
  }
  return found.get(`${edge} ${clip.id}`)
}

export const lengthOf = ({ before, after }: Transition): number => before + after

export const shapeOf = (kind: string): SoundFade => SOUND_FADES.find((shape) => shape === kind) ?? 'equalPower'

/** The corner handle of a fade and the curve above which the sound is taken away. */
export function fadeHandle(edge: FadeEdge, kind: string, x: number, w: number, px: number, top: number, h: number) {
  const end = edge === 'start' ? x + px : x + w - px
  if (px < 1) return { edge, x: end, w: px, path: '' }
  const from = edge === 'start' ? x : x + w
  const steps = 16
  const curve = Array.from({ length: steps + 1 }, (_, i) => {
    const t = i / steps
    const at = from + (end - from) * t
    return `${at.toFixed(1)} ${(top + (1 - fadeGain(shapeOf(kind), t)) * h).toFixed(1)}`
  })
  return { edge, x: end, w: px, path: `M${from} ${top}L${curve.join('L')}Z` }
}
