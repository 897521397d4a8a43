import { grown } from '@dusk/compositor'
import {
  clipEnd,
  CLIP_DEFAULTS,
  clipsOn,
  createProject,
  secondsToTicks,
  snapToFrame,
  tracksOf,
  type CommandInput,
  type Project,
  type Title,
} from '@dusk/timeline'
import type { OwnTitle } from '~~/shared/preferences'

type AddGenerated = Extract<CommandInput, { type: 'addGenerated' }>
/** What is generated, before it is said where it goes. */
export type Generated = Pick<AddGenerated['generated'][number], 'params'> &
  (
    | { kind: 'title'; title: Title }
    | { kind: 'generator'; generator: string; settings: Record<string, never> }
    | { kind: 'adjustment' }
  )

/** Where something generated goes: a track with room there, or a new one in front. */
export interface MadePlan {
  command: AddGenerated
  clipId: string
  trackId: string
  start: number
  length: number
  words: string
}

/**
 * Lays something generated down at a place: on `wanted` if there is room, else on the foremost track with room, else on
 * a new one.
 */
export function planGenerated(
  project: Project,
  reelId: string,
  generated: Generated,
  at: number,
  length: number,
  wanted: string | null = null,
): MadePlan {
  const rate = project.reels[reelId]!.format.rate
  const start = snapToFrame(Math.max(0, at), rate)
  const end = snapToFrame(start + length, rate)
  const free = (trackId: string) =>
    clipsOn(project, trackId).every((clip) => clipEnd(clip) <= start || clip.start >= end)
  const open = tracksOf(project, reelId).filter((track) => track.kind === 'picture' && !track.locked && !track.hidden)
  const front = open.at(-1)
  const target =
    open.find((track) => track.id === wanted && free(track.id)) ??
    (wanted === null && front && free(front.id) && clipsOn(project, front.id).every((clip) => clip.kind !== 'media')
      ? front
      : null)
  const trackId = target?.id ?? crypto.randomUUID()
  const clipId = crypto.randomUUID()
  return {
    command: {
      type: 'addGenerated',
      mode: 'free',
      generated: [{ ...generated, clipId, trackId, start, length: end - start } as AddGenerated['generated'][number]],
      ...(target ? {} : { newTrack: { trackId, reelId } }),
    },
    clipId,
    trackId,
    start,
    length: end - start,
    words: target ? `on ${target.name}` : 'on a new track in front',
  }
}

/** A reel of some shape that holds one thing generated, for showing it in a gallery. */
export function sampleOf(
  generated: Generated,
  format: { width: number; height: number },
  length: number,
): { project: Project; reelId: string } {
  let n = 0
  const newId = () => `00000000-0000-4000-8000-${(++n).toString(16).padStart(12, '0')}`
  const empty = createProject('sample', { ...format, rate: { num: 30, den: 1 } }, newId)
  const reelId = Object.keys(empty.reels)[0]!
  const track = tracksOf(empty, reelId)[0]!
  const id = newId()
  const clip = {
    ...CLIP_DEFAULTS,
    id,
    trackId: track.id,
    stream: null,
    start: 0,
    length,
    map: { kind: 'constant', source: 0, speed: 1 },
    ...generated,
    params: generated.params ?? {},
  }
  return {
    project: {
      ...empty,
      reels: { [reelId]: { ...empty.reels[reelId]!, background: '#37304b' } },
      clips: { [id]: clip as never },
    },
    reelId,
  }
}

/** A title kept in a reel of another size, generated to fit this one. */
export function fitOwn({ title, params, format }: OwnTitle, to: { width: number; height: number }): Generated {
  const factor = Math.min(to.width, to.height) / Math.min(format.width, format.height)
  const { position } = params
  const moved = Array.isArray(position)
    ? {
        position: [(position[0]! * to.width) / format.width, (position[1]! * to.height) / format.height] as [
          number,
          number,
        ],
      }
    : {}
  return {
    kind: 'title',
    title: {
      ...title,
      style: grown(title.style, factor),
      runs: title.runs.map((run) => ({ ...run, style: grown(run.style, factor) })),
    },
    params: { ...params, ...moved },
  }
}

/** A plain title with nothing said yet. */
export function plainTitle(format: { width: number; height: number }): Generated {
  return {
    kind: 'title',
    title: {
      text: '',
      style: { size: Math.round(Math.min(format.width, format.height) / 10), letterShadow: 50 },
      runs: [],
      in: null,
      out: null,
      during: null,
    },
    params: {},
  }
}

/** How long a new title stays unless its preset says otherwise. */
export const TITLE_LENGTH = secondsToTicks(4)
