import { ref } from 'vue'
import { clipEnd, clipSourceRange, formatSeconds, TICKS_PER_SAMPLE, type MediaClip } from '@dusk/timeline'
import type { FittedLength } from '@dusk/sound'
import { usePlayer } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { useNotices } from '~/features/ui/noticesStore'

/** What was done, in words. */
export function fittedWords(fitted: FittedLength, early: number): string {
  const joins = fitted.parts.length - 1
  const times = joins === 1 ? 'one place' : `${joins} places`
  const end = early > TICKS_PER_SAMPLE * 2400 ? ` It ends by itself ${formatSeconds(early)} before that.` : ''
  switch (fitted.manner) {
    case 'matched':
      return joins === 0 ? `It is that long already.${end}` : `Joined in ${times} where it sounds alike.${end}`
    case 'looped':
      return `It never sounds like itself, so it begins again in ${times}, passing slowly. Listen to those.`
    case 'faded':
      return 'It never sounds like itself, so it is faded out.'
  }
}

/** Brings music to a length: at places where it sounds alike, else begun again or faded out. */
export function useMusicLength() {
  const player = usePlayer()
  const project = useProject()
  const notices = useNotices()
  /** How far it has got, 0 to 1; `null` while nothing is worked out. */
  const part = ref<number | null>(null)

  /** @param clips one clip, or the stretches it was put together from @param length ticks */
  async function bringTo(clips: readonly MediaClip[], length: number): Promise<boolean> {
    const [first] = clips
    if (!first || part.value !== null) return false
    const ranges = clips.map(clipSourceRange)
    const samples = (ticks: number) => Math.round(ticks / TICKS_PER_SAMPLE)
    part.value = 0
    try {
      const fitted = await player.tasks.fit(
        {
          assetId: first.assetId,
          stream: first.stream!,
          from: samples(Math.min(...ranges.map(({ from }) => from))),
          to: samples(Math.max(...ranges.map(({ to }) => to))),
          target: samples(length),
        },
        (done) => (part.value = done),
      )
      const ticks = (count: number) => count * TICKS_PER_SAMPLE
      const done = project.perform({
        type: 'recut',
        clipIds: clips.map(({ id }) => id),
        parts: fitted.parts.map(({ from, to }) => ({ source: ticks(from), length: ticks(to - from) })),
        crossfade: ticks(fitted.crossfade),
        // What sounds alike adds up by amplitude, what does not by power.
        fade: fitted.manner === 'matched' ? 'linear' : 'equalPower',
        fadeOut: ticks(fitted.fadeOut),
      })
      if (done) {
        const made = fitted.parts.reduce((sum, { from, to }) => sum + ticks(to - from), 0)
        notices.say(fittedWords(fitted, length - made))
      }
      return done
    } catch (error) {
      notices.warn((error as Error).message)
      return false
    } finally {
      part.value = null
    }
  }

  /** Ticks from where a clip begins to where the pictures of its reel end. */
  function toPicturesEnd(clip: MediaClip): number {
    const { document } = project
    if (!document) return 0
    const ends = Object.values(document.clips)
      .filter(({ trackId }) => document.tracks[trackId]?.kind === 'picture')
      .filter(({ trackId }) => document.tracks[trackId]?.reelId === project.reelId)
      .map(clipEnd)
    return Math.max(0, Math.max(0, ...ends) - clip.start)
  }

  return { part, bringTo, toPicturesEnd }
}
