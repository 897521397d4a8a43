import { SOUND_FADES, type Project, type SoundFade, type Transition } from '@dusk/timeline'

export type ClipEdge = 'start' | 'end'

/** Transitions by the clip's end they lie on, for each state of a document. */
const byEdge = new WeakMap<Project['transitions'], Map<string, Transition>>()

/** The transition at a clip's start or end. */
export function transitionAtEdge(
  transitions: Project['transitions'],
  clipId: string,
  edge: ClipEdge,
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
  return found.get(`${edge} ${clipId}`)
}

/** The curve of a fade of sound. */
export const fadeShape = (kind: string): SoundFade => SOUND_FADES.find((shape) => shape === kind) ?? 'equalPower'
