import { clipEnd, clipsOn, frameToTicks, TICKS_PER_SAMPLE, type CommandInput, type Project } from '@dusk/timeline'
import { tried } from '~/features/project/tried'
import type { RecordingFacts } from './recordingStore'

/** How near to a clip's beginning a recording may begin to be one of that clip. */
const NEAR = frameToTicks(15, { num: 30, den: 1 })

/**
 * What puts a finished recording on its track. Begun where a recorded clip begins, it is another take of that clip,
 * which keeps its edges; within a marked part it takes that part; else it lies from where it was begun to where it was
 * ended.
 * @param samples length of the recording
 */
export function placed(
  project: Project,
  facts: RecordingFacts,
  assetId: string,
  samples: number,
  clipId = crypto.randomUUID() as string,
): CommandInput {
  const { trackId, from, to, playedFrom, delay } = facts
  const source = Math.max(0, from - playedFrom + delay * TICKS_PER_SAMPLE)
  const length = to === null ? samples * TICKS_PER_SAMPLE - source : to - from
  if (to === null) {
    const near = clipsOn(project, trackId).find(
      (clip) =>
        Math.abs(clip.start - from) <= NEAR &&
        clipEnd(clip) > from &&
        clip.kind === 'media' &&
        clip.map.kind === 'constant' &&
        clip.map.speed === 1 &&
        project.assets[clip.assetId]?.picture === null,
    )
    if (near) return { type: 'addTake', clipId: near.id, assetId, at: from, source }
  }
  return { type: 'record', clipId, trackId, assetId, start: from, length, source }
}

/** A name for the next recording: what its track is called, and a number that is not taken. */
export function nextName(project: Project, trackName: string): string {
  const taken = new Set(Object.values(project.assets).map(({ name }) => name.replace(/\.wav$/, '')))
  let n = 1
  while (taken.has(`${trackName} ${n}`)) n++
  return `${trackName} ${n}`
}

/**
 * The document as it is heard while it is recorded onto a track: without what lies there already in the part that is
 * recorded, so that nobody speaks against an earlier take. `null` where nothing lies there.
 */
export function withoutEarlier(project: Project, { reelId, trackId, from, to }: RecordingFacts): Project | null {
  const end = Math.max(0, ...clipsOn(project, trackId).map(clipEnd))
  const cut = { type: 'cutOut', reelId, trackId, scope: 'track', closeUp: false, from, to: to ?? end } as const
  if (cut.to <= from) return null
  return tried(project, cut)?.project ?? null
}
