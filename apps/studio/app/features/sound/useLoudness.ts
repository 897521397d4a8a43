import { ref } from 'vue'
import type { Measured, MeasureTask } from '~/features/player/mixTasks'
import { usePlayer } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { useNotices } from '~/features/ui/noticesStore'
import { SOUND_DEFAULTS, type SoundPreferences } from '~~/shared/preferences'
import { useSound } from './soundStore'

/** Loudness that most upload places play at, in LUFS. */
export const UPLOAD_LOUDNESS = -14

const db = (value: number) => `${value < 0 ? '−' : ''}${Math.abs(value).toFixed(1)}`

/** A measurement in words. */
export function loudnessWords({ integrated, range, truePeak }: Measured): string {
  if (integrated === null) return 'Too quiet to measure.'
  const spread = range === null ? '' : `, range ${range.toFixed(1)} LU`
  return `${db(integrated)} LUFS${spread}, true peak ${db(truePeak)} dB.`
}

/** One plain sentence about how loud something is for an upload. */
export function loudnessSentence(integrated: number | null, truePeak: number): string {
  if (integrated === null) return 'Nothing loud enough to measure.'
  const off = integrated - UPLOAD_LOUDNESS
  const peak = truePeak > -0.3 ? ' It clips between samples: a limiter on the reel helps.' : ''
  if (Math.abs(off) < 1) return `As loud as most upload places play.${peak}`
  return `${Math.abs(off).toFixed(0)} LU ${off < 0 ? 'quieter' : 'louder'} than most upload places play.${peak}`
}

/** Measures sounds and sets their gain by what was found; each is one step to undo. */
export function useLoudness() {
  const player = usePlayer()
  const project = useProject()
  const notices = useNotices()
  const store = useSound()
  const busy = ref(false)
  const part = ref(0)

  async function measure(what: Omit<MeasureTask, 'kind'>, from = 0, share = 1): Promise<Measured | null> {
    busy.value = true
    try {
      return await player.tasks.measure(what, (done) => (part.value = from + done * share))
    } catch (error) {
      notices.warn(`It could not be measured: ${(error as Error).message}`)
      return null
    } finally {
      busy.value = false
    }
  }

  /** Each clip by itself, as it is heard now. */
  async function measureEach(ids: readonly string[]): Promise<Map<string, Measured>> {
    const found = new Map<string, Measured>()
    for (const [i, id] of ids.entries()) {
      const one = await measure({ clipIds: [id] }, i / ids.length, 1 / ids.length)
      if (one) found.set(id, one)
    }
    return found
  }

  /** Changes gains by so many decibels each; what does not change them is left alone. */
  function apply(changes: ReadonlyMap<string, number>): void {
    const clips = [...changes].flatMap(([clipId, by]) => {
      const clip = project.document?.clips[clipId]
      if (!clip || !Number.isFinite(by)) return []
      const gain = Math.round(Math.min(24, Math.max(-96, clip.gain + by)) * 10) / 10
      return [{ clipId, gain, short: clip.gain + by > 24 }]
    })
    if (clips.length === 0) return notices.say('There is nothing loud enough to measure.')
    project.perform({ type: 'setGains', clips: clips.map(({ clipId, gain }) => ({ clipId, gain })) })
    if (clips.some(({ short }) => short))
      notices.say('Gain ends at +24 dB. A compressor or a limiter on the track brings it further up.')
  }

  /** Each clip to the loudness that its track's purpose has. */
  async function bringToTarget(ids: readonly string[]): Promise<void> {
    await store.load()
    const found = await measureEach(ids)
    apply(
      new Map(
        [...found].flatMap(([id, { integrated }]) =>
          integrated === null ? [] : [[id, store.preferences.targets[purposeOf(id)] - integrated]],
        ),
      ),
    )
  }

  /** What a sound is for, by its track. */
  function purposeOf(clipId: string): keyof SoundPreferences['targets'] {
    const clip = project.document?.clips[clipId]
    const purpose = clip && project.document?.tracks[clip.trackId]?.purpose
    return purpose && purpose in SOUND_DEFAULTS.targets ? (purpose as keyof SoundPreferences['targets']) : 'voice'
  }

  async function matchFirst(ids: readonly string[]): Promise<void> {
    const found = await measureEach(ids)
    const wanted = found.get(ids[0]!)?.integrated
    if (wanted === null || wanted === undefined) return notices.say('The first of them is too quiet to measure.')
    apply(
      new Map(
        [...found].flatMap(([id, { integrated }]) =>
          integrated === null || id === ids[0] ? [] : [[id, wanted - integrated]],
        ),
      ),
    )
  }

  async function bringPeakTo(ids: readonly string[], peak: number): Promise<void> {
    const found = await measureEach(ids)
    apply(new Map([...found].flatMap(([id, { truePeak }]) => (truePeak < -120 ? [] : [[id, peak - truePeak]]))))
  }

  return { busy, part, measure, bringToTarget, purposeOf, matchFirst, bringPeakTo }
}
