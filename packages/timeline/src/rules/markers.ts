import { defineRule } from './rule'

/** A marker lies on a reel or on a clip, never on both or neither; a kept part of a source has a length. */
export const markers = defineRule({
  name: 'marker',
  about: ['markers', 'subclips'],
  time: true,
  check(view, touched, broken) {
    for (const { id, reelId, clipId, at } of touched.of(view, 'markers')) {
      if ((reelId === null) === (clipId === null)) broken('A marker lies on one thing, a reel or a clip.', id)
      if (reelId !== null && at < 0) broken('A marker can’t lie before the start of the reel.', id)
    }
    for (const { id, from, to } of touched.of(view, 'subclips'))
      if (to <= from) broken('A kept part of a source has to have a length.', id)
  },
})
