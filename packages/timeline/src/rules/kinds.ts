import { sourceOf } from '../document/source'
import { clipsConcerned, defineRule } from './rule'

/** Pictures lie on picture tracks, sounds on sound tracks, and tracks are for what their kind can hold. */
export const kinds = defineRule({
  name: 'kind',
  about: ['clips', 'tracks', 'assets'],
  check(view, touched, broken) {
    for (const track of touched.of(view, 'tracks'))
      if ((track.kind === 'picture') !== (track.purpose === 'picture' || track.purpose === 'titles'))
        broken(`A ${track.kind} track can’t be for ${track.purpose}.`, track.id)
    const all = touched.any('assets')
    for (const clip of all ? view.all('clips') : clipsConcerned(view, touched)) {
      if (all && clip.kind === 'media' && !touched.has('assets', clip.assetId) && !touched.has('clips', clip.id))
        continue
      const track = view.get('tracks', clip.trackId)
      const source = track && sourceOf(view, clip)
      if (!source) continue
      if (track.kind === 'picture') {
        if (!source.picture || clip.stream !== null) broken(`${source.name} has no picture for this track.`, clip.id)
      } else if (clip.stream === null || !source.sounds[clip.stream])
        broken(`${source.name} has no such sound for this track.`, clip.id)
    }
  },
})
