import { shallowRef, toValue, watch, type MaybeRefOrGetter, type Ref } from 'vue'
import { titleLayer, type TitleClip } from '@dusk/timeline'
import type { Rect } from '@dusk/compositor'
import { usePlayer, usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'

/** What a box hangs on: the letters and how they are set. */
const wording = ({ title }: TitleClip) => JSON.stringify([title.text, title.style, title.runs])

/** Least width of a title's box: one without words can still be taken hold of. */
const LEAST = 20

/** The box of words, widened about its middle where there are hardly any. */
function boxOf({ left, top, width, height }: { left: number; top: number; width: number; height: number }): Rect {
  const more = Math.max(0, LEAST - width)
  return { x: left - more / 2, y: top, width: width + more, height }
}

/** Boxes of the words of titles, in their own pixels, and whether one still belongs to what is written. */
export interface WordBoxes {
  boxes: Readonly<Ref<ReadonlyMap<string, Rect>>>
  /** False while a title's words have changed and their box is not known yet. */
  known(clip: TitleClip): boolean
}

/**
 * Measures the words of titles whenever they change. One question is open at a time: who types faster than words are
 * set is answered for the last letter, not for each.
 */
export function useWordBoxes(titles: MaybeRefOrGetter<readonly TitleClip[]>): WordBoxes {
  const project = useProject()
  const player = usePlayer()
  const playhead = usePlayhead()
  const boxes = shallowRef<ReadonlyMap<string, Rect>>(new Map())
  const measured = shallowRef<ReadonlyMap<string, string>>(new Map())
  const refused = new Map<string, string>()
  const unknown = () =>
    toValue(titles).find((clip) => ![measured.value.get(clip.id), refused.get(clip.id)].includes(wording(clip)))

  let asking = false
  async function ask(): Promise<void> {
    if (asking) return
    asking = true
    for (let clip = unknown(); clip && project.reel; clip = unknown()) {
      const asked = wording(clip)
      try {
        const layer = { ...titleLayer(clip, playhead.tick.value, project.reel.format), travel: 0.5 }
        const { measure } = await player.titleLayout({ layer })
        boxes.value = new Map(boxes.value).set(clip.id, boxOf(measure))
        measured.value = new Map(measured.value).set(clip.id, asked)
      } catch {
        // Without its fonts a title keeps the box it had.
        refused.set(clip.id, asked)
      }
    }
    asking = false
  }
  watch(() => toValue(titles).map(wording).join(), ask, { immediate: true })
  return { boxes, known: (clip) => measured.value.get(clip.id) === wording(clip) }
}
