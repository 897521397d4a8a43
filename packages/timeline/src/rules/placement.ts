import { clipEnd } from '../document/query'
import { MAX_TICKS } from '../document/values'
import { snapToFrame, snapToSample } from '../time/ticks'
import { clipsConcerned, defineRule } from './rule'

/** Clips lie inside the longest reel there can be. */
export const bounds = defineRule({
  name: 'limit',
  about: ['clips'],
  time: true,
  check(view, touched, broken) {
    for (const clip of touched.of(view, 'clips')) {
      if (clip.start < 0) broken('A clip can’t begin before the start of the reel.', clip.id)
      if (clip.length < 1) broken('A clip has to be at least one frame long.', clip.id)
      if (clipEnd(clip) > MAX_TICKS) broken('A reel is at most 24 hours long.', clip.id)
    }
  },
})

/** Pictures begin and end on frames of their reel, sounds on samples. */
export const grid = defineRule({
  name: 'grid',
  about: ['clips', 'tracks', 'reels'],
  time: true,
  check(view, touched, broken) {
    for (const clip of clipsConcerned(view, touched)) {
      const track = view.get('tracks', clip.trackId)
      const reel = track && view.get('reels', track.reelId)
      if (!reel) continue
      const { rate } = reel.format
      const off =
        track.kind === 'picture'
          ? snapToFrame(clip.start, rate) !== clip.start || snapToFrame(clipEnd(clip), rate) !== clipEnd(clip)
          : snapToSample(clip.start) !== clip.start || snapToSample(clip.length) !== clip.length
      if (off)
        broken(
          track.kind === 'picture'
            ? 'A picture would lie between two frames: the reel’s frame rate was changed since.'
            : 'A sound would lie between two samples.',
          clip.id,
        )
    }
  },
})

/** Clips on a track never overlap. */
export const overlap = defineRule({
  name: 'overlap',
  about: ['clips'],
  time: true,
  check(view, touched, broken) {
    const tracks = new Set<string>()
    for (const clip of touched.of(view, 'clips')) tracks.add(clip.trackId)
    for (const trackId of tracks) {
      const lane = view.clipsOn(trackId)
      for (let i = 1; i < lane.length; i++)
        if (clipEnd(lane[i - 1]!) > lane[i]!.start)
          broken(
            `There is already a clip at that place on ${view.get('tracks', trackId)?.name ?? 'that track'}.`,
            lane[i - 1]!.id,
            lane[i]!.id,
          )
    }
  },
})
