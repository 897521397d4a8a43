import {
  applyCommand,
  clipEnd,
  CommandRefused,
  commandSchema,
  formatSeconds,
  formatTimecode,
  TICKS_PER_SECOND,
  type Asset,
  type Clip,
  type CommandInput,
  type Piece,
  type PlaceMode,
  type Project,
  type Track,
} from '@dusk/timeline'
import type { Row } from './layout'

/** Where something would lie. */
export interface GhostClip {
  trackId: string
  start: number
  length: number
}

/** What letting go would do: the command, or why there is none, in words. */
export interface DropPlan {
  command: CommandInput | null
  words: string
  ghosts: GhostClip[]
}

/** Length that a still gets, in ticks. */
export const STILL_LENGTH = 5 * TICKS_PER_SECOND

/** Seed for trying commands out; ids made with it are thrown away. */
const TRIAL = '00000000-0000-4000-8000-000000000000'

function refusal(project: Project, input: CommandInput): CommandRefused | null {
  try {
    applyCommand(project, commandSchema.parse(input), TRIAL)
    return null
  } catch (error) {
    if (error instanceof CommandRefused) return error
    return new CommandRefused('limit', 'That place is outside the reel.')
  }
}

/**
 * Picks the way a drop is carried out: where there is room it is simply placed; where there is not, later clips make
 * room; with `over` what lies beneath is covered.
 */
function decide(
  project: Project,
  make: (mode: PlaceMode) => CommandInput,
  over: boolean,
  at: string,
  length: number,
  ghosts: GhostClip[],
): DropPlan {
  if (over) {
    const command = make('over')
    const no = refusal(project, command)
    return no
      ? { command: null, words: no.message, ghosts }
      : { command, words: `lay over at ${at}, covers what is there`, ghosts }
  }
  const free = make('free')
  const no = refusal(project, free)
  if (!no) return { command: free, words: `place at ${at}`, ghosts }
  if (no.rule !== 'overlap') return { command: null, words: no.message, ghosts }
  const insert = make('insert')
  const never = refusal(project, insert)
  if (never) return { command: null, words: never.message, ghosts }
  return { command: insert, words: `insert, later clips move ${formatSeconds(length)}`, ghosts }
}

/** What moving clips would do. `rowShift` counts rows of the same kind, downwards. */
export function planMove(
  project: Project,
  rows: readonly Row[],
  clips: readonly Clip[],
  by: number,
  rowShift: number,
  kind: Track['kind'],
  over: boolean,
  linked: boolean,
): DropPlan {
  const lanes = rows.filter((row) => row.track.kind === kind).map((row) => row.track)
  const moving = clips.filter((clip) => project.tracks[clip.trackId]?.kind === kind)
  const places = moving.map((clip) => lanes.findIndex((track) => track.id === clip.trackId) + rowShift)
  const fits = places.every((place) => place >= 0 && place < lanes.length)
  const tracks: Record<string, string> = {}
  if (rowShift !== 0 && fits) moving.forEach((clip, i) => (tracks[clip.id] = lanes[places[i]!]!.id))
  const first = Math.min(...clips.map((clip) => clip.start))
  const shift = Math.max(by, -first)
  const ghosts = clips.map((clip) => ({
    trackId: tracks[clip.id] ?? clip.trackId,
    start: clip.start + shift,
    length: clip.length,
  }))
  const length = Math.max(...clips.map(clipEnd)) - first
  const rate = Object.values(project.reels).find((reel) => reel.id === project.tracks[clips[0]!.trackId]?.reelId)!
    .format.rate
  const clipIds = clips.map((clip) => clip.id)
  return decide(
    project,
    (mode) => ({ type: 'move', clipIds, by: shift, tracks, mode, linked }),
    over,
    formatTimecode(first + shift, rate),
    length,
    ghosts,
  )
}

/** A part of a source to place; without `from` and `length` all of it. */
export interface Part {
  asset: Asset
  from?: number
  length?: number
  /** Only its picture, or only its sound. */
  use?: 'both' | 'picture' | 'sound'
}

function isFree(project: Project, trackId: string, start: number, end: number): boolean {
  return !Object.values(project.clips).some(
    (clip) => clip.trackId === trackId && clip.start < end && clipEnd(clip) > start,
  )
}

/** Purposes that a source's own sound goes to first, by kind. */
const CAMERA_SOUND: Track['purpose'][] = ['ambience', 'effects', 'voice', 'music']
const PURE_SOUND: Track['purpose'][] = ['music', 'effects', 'voice', 'ambience']

/**
 * The sound track for a source: the one under the pointer, else the first by purpose with room there, else the
 * first.
 */
function soundTrack(
  project: Project,
  rows: readonly Row[],
  wanted: Track | null,
  asset: Asset,
  start: number,
  end: number,
): Track | null {
  if (wanted?.kind === 'sound') return wanted
  const order = asset.kind === 'sound' ? PURE_SOUND : CAMERA_SOUND
  const tracks = rows.map((row) => row.track).filter((track) => track.kind === 'sound' && !track.locked)
  const sorted = [...tracks].sort((a, b) => order.indexOf(a.purpose) - order.indexOf(b.purpose))
  return sorted.find((track) => isFree(project, track.id, start, end)) ?? sorted[0] ?? null
}

/** Pieces of sources laid one after the other from `start`, each picture with its sound. */
export interface Laid {
  pieces: Piece[]
  ghosts: GhostClip[]
  end: number
}

/**
 * Chooses tracks for sources. Pictures go on `target` or the backmost open picture track, sounds on `target` or a track
 * of a fitting purpose with room.
 * @returns words when there is no track for one of them
 */
export function layOut(
  project: Project,
  rows: readonly Row[],
  parts: readonly Part[],
  target: Track | null,
  start: number,
): Laid | string {
  const pieces: Piece[] = []
  const ghosts: GhostClip[] = []
  const backPicture = rows.filter((row) => row.track.kind === 'picture' && !row.track.locked).at(-1)?.track ?? null
  let at = Math.max(0, start)
  for (const { asset, from = 0, length, use = 'both' } of parts) {
    const long = length ?? (asset.kind === 'still' ? STILL_LENGTH : asset.length - from)
    const soundOnly = use === 'sound' || asset.kind === 'sound' || (target?.kind === 'sound' && asset.sounds.length > 0)
    const picture = soundOnly ? null : target?.kind === 'picture' ? target : backPicture
    const sound =
      asset.sounds.length > 0 && use !== 'picture' ? soundTrack(project, rows, target, asset, at, at + long) : null
    if (!picture && !sound) return `There is no track for ${asset.name}. Add one.`
    const base = {
      assetId: asset.id,
      start: at,
      length: long,
      source: from,
      link: picture && sound ? crypto.randomUUID() : null,
    }
    for (const [track, stream] of [
      [picture, null],
      [sound, 0],
    ] as const) {
      if (!track) continue
      pieces.push({ ...base, clipId: crypto.randomUUID(), trackId: track.id, stream })
      ghosts.push({ trackId: track.id, start: at, length: long })
    }
    at += long
  }
  return { pieces, ghosts, end: at }
}

/** What placing sources one after the other from `start` would do. `target` is the track under the pointer. */
export function planPlace(
  project: Project,
  rows: readonly Row[],
  parts: readonly Part[],
  target: Track | null,
  start: number,
  over: boolean,
): DropPlan {
  const reel = rows[0] ? project.reels[rows[0].track.reelId] : undefined
  if (!reel) return { command: null, words: 'There is no track to put this on. Add one.', ghosts: [] }
  const laid = layOut(project, rows, parts, target, start)
  if (typeof laid === 'string') return { command: null, words: laid, ghosts: [] }
  return decide(
    project,
    (mode) => ({ type: 'place', pieces: laid.pieces, mode }),
    over,
    formatTimecode(Math.max(0, start), reel.format.rate),
    laid.end - Math.max(0, start),
    laid.ghosts,
  )
}

/** What is dragged from the library, a source strip or a pick: sources, each whole or a part of it. */
export interface DraggedParts {
  kind: 'parts'
  parts: { assetId: string; from?: number; length?: number; use?: Part['use'] }[]
}
