import {
  applyCommand,
  clipEnd,
  CommandRefused,
  commandSchema,
  formatSeconds,
  formatTimecode,
  reading,
  reelLength,
  reelsInside,
  snapToFrame,
  ticksPerFrame,
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
  make: (mode: PlaceMode) => { command: CommandInput; ghosts: GhostClip[] },
  over: boolean,
  at: string,
  push: { mode: 'insert' | 'push'; by: number },
): DropPlan {
  const planned = (mode: PlaceMode, words: string): DropPlan & { rule: string } => {
    const { command, ghosts } = make(mode)
    const no = refusal(project, command)
    return no ? { command: null, words: no.message, ghosts, rule: no.rule } : { command, words, ghosts, rule: '' }
  }
  if (over) return planned('over', `lay over at ${at}, covers what is there`)
  const free = planned('free', `place at ${at}`)
  if (free.rule !== 'overlap') return free
  return planned(push.mode, `${push.mode}, later clips move ${formatSeconds(push.by)}`)
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
  const ids = new Set(clips.map((clip) => clip.id))
  const ghostsAt = (shift: number) =>
    clips.map(({ id, trackId, start, length }) => ({ trackId: tracks[id] ?? trackId, start: start + shift, length }))
  let shift = Math.max(by, -first)
  // A little way into the clip that it came from behind of is behind that one still: nothing is cut off it.
  const into = over || shift >= 0 ? 0 : tailOverlap(project, ids, clips, ghostsAt(shift), shift)
  shift += into
  const ghosts = ghostsAt(shift)
  const rate = Object.values(project.reels).find((reel) => reel.id === project.tracks[clips[0]!.trackId]?.reelId)!
    .format.rate
  const clipIds = clips.map((clip) => clip.id)
  return decide(
    project,
    (mode) => ({ command: { type: 'move', clipIds, by: shift, tracks, mode, linked }, ghosts }),
    over,
    into > 0
      ? `${formatTimecode(first + shift, rate)}, behind the clip before it`
      : formatTimecode(first + shift, rate),
    pushOf(project, ids, ghosts),
  )
}

/** Overlap that is in nobody's way, in ticks: less than half a frame of sound ends where the later one begins. */
function hairOf(project: Project, track: Track | undefined): number {
  return track?.kind === 'sound' ? ticksPerFrame(project.reels[track.reelId]!.format.rate) / 2 : 0
}

/** By how much clips moved earlier reach into the end of one that they were behind, where that is less than a half. */
function tailOverlap(
  project: Project,
  moving: ReadonlySet<string>,
  clips: readonly Clip[],
  ghosts: readonly GhostClip[],
  shift: number,
): number {
  let most = 0
  for (const [i, { trackId, start, length }] of ghosts.entries())
    for (const clip of Object.values(project.clips)) {
      if (clip.trackId !== trackId || moving.has(clip.id) || clip.start >= start || clipEnd(clip) <= start) continue
      const into = clipEnd(clip) - start
      if (into < hairOf(project, project.tracks[trackId])) continue
      if (clips[i]!.start < clipEnd(clip) || into > Math.min(length, clip.length) / 2) return 0
      most = Math.max(most, into)
    }
  return Math.min(most, -shift)
}

/**
 * How later clips make room for what is moved: pushed by what overlaps, where it begins in front of them; where it
 * begins inside a clip, that one is cut and all later ones move by the whole length.
 */
function pushOf(
  project: Project,
  moving: ReadonlySet<string>,
  ghosts: readonly GhostClip[],
): { mode: 'insert' | 'push'; by: number } {
  let by = 0
  for (const { trackId, start, length } of ghosts)
    for (const clip of Object.values(project.clips)) {
      if (clip.trackId !== trackId || moving.has(clip.id) || clipEnd(clip) <= start || clip.start >= start + length)
        continue
      if (clip.start < start) {
        const ends = ghosts.map((ghost) => ghost.start + ghost.length)
        return { mode: 'insert', by: Math.max(...ends) - Math.min(...ghosts.map((ghost) => ghost.start)) }
      }
      by = Math.max(by, start + length - clip.start)
    }
  return { mode: 'push', by }
}

/** A part of a source, or of another reel, to place; without `from` and `length` all of it. */
export interface Part {
  asset: Pick<Asset, 'id' | 'name' | 'kind' | 'length' | 'sounds'>
  /** It is a reel that plays inside this one. */
  nested?: boolean
  from?: number
  length?: number
  /** Only its picture, or only its sound. */
  use?: 'both' | 'picture' | 'sound'
}

/** Whether a sound can lie there. */
function isFree(project: Project, track: Track, start: number, end: number): boolean {
  const hair = hairOf(project, track)
  return !Object.values(project.clips).some(
    (clip) => clip.trackId === track.id && clip.start < end - hair && clipEnd(clip) > start + hair,
  )
}

/** All of another reel, or words that say why it can't play here. */
export function partOfReel(project: Project, reelId: string, into: string): Part | string {
  const reel = project.reels[reelId]
  if (!reel) return 'That reel is no longer there.'
  if (reelsInside(reading(project), reelId).has(into)) return 'A reel can’t play inside itself.'
  const length = reelLength(project, reelId)
  if (length === 0) return `${reel.name} is empty.`
  const sounds = [{ channels: 2, length, title: '' }]
  return { asset: { id: reelId, name: reel.name, kind: 'video', length, sounds }, nested: true }
}

/** Purposes that a source's own sound goes to first, by kind. */
const CAMERA_SOUND: Track['purpose'][] = ['ambience', 'effects', 'voice', 'music']
const PURE_SOUND: Track['purpose'][] = ['music', 'effects', 'voice', 'ambience']

/** Where what comes in goes. */
export interface Destination {
  /** The track under the pointer. */
  target?: Track | null
  /** Tracks that the person has aimed at, by kind. */
  picture?: Track | null
  sound?: Track | null
  /** Looks for a sound track with room, where nothing is to be pushed or covered. */
  room?: boolean
}

/** The sound track on which the sounds of a picture track's clips lie: most of them. */
function companion(project: Project, picture: Track | null): string | null {
  if (!picture) return null
  const links = new Set<string>()
  for (const clip of Object.values(project.clips)) if (clip.trackId === picture.id && clip.link) links.add(clip.link)
  const counts = new Map<string, number>()
  for (const clip of Object.values(project.clips))
    if (clip.link && links.has(clip.link) && clip.trackId !== picture.id)
      counts.set(clip.trackId, (counts.get(clip.trackId) ?? 0) + 1)
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null
}

/**
 * The sound track for a source: the one under the pointer or aimed at, else the one on which the picture track's sounds
 * lie, else the first by purpose; the first of these with room there, where room is looked for.
 */
function soundTrack(
  project: Project,
  rows: readonly Row[],
  to: Destination,
  picture: Track | null,
  asset: Part['asset'],
  start: number,
  end: number,
): Track | null {
  if (to.target?.kind === 'sound') return to.target
  if (to.sound && !to.sound.locked) return to.sound
  const order = asset.kind === 'sound' ? PURE_SOUND : CAMERA_SOUND
  const usual = companion(project, picture)
  const rank = (track: Track) => (track.id === usual ? -1 : order.indexOf(track.purpose))
  const tracks = rows.map((row) => row.track).filter((track) => track.kind === 'sound' && !track.locked)
  const sorted = [...tracks].sort((a, b) => rank(a) - rank(b))
  const free = to.room ? sorted.find((track) => isFree(project, track, start, end)) : null
  return free ?? sorted[0] ?? null
}

/** Pieces of sources laid one after the other from `start`, each picture with its sound. */
export interface Laid {
  pieces: Piece[]
  ghosts: GhostClip[]
  end: number
}

/**
 * Chooses tracks for sources. Pictures go on the track under the pointer or aimed at, or the backmost open picture
 * track, sounds as {@link soundTrack} says.
 * @returns words when there is no track for one of them
 */
export function layOut(
  project: Project,
  rows: readonly Row[],
  parts: readonly Part[],
  to: Destination,
  start: number,
): Laid | string {
  const target = to.target ?? null
  const aimed = to.picture && !to.picture.locked ? to.picture : null
  const pieces: Piece[] = []
  const ghosts: GhostClip[] = []
  const backPicture = rows.filter((row) => row.track.kind === 'picture' && !row.track.locked).at(-1)?.track ?? null
  const rate = rows[0] && project.reels[rows[0].track.reelId]!.format.rate
  let at = Math.max(0, start)
  for (const { asset, nested, from = 0, length, use = 'both' } of parts) {
    const long = length ?? (asset.kind === 'still' ? STILL_LENGTH : asset.length - from)
    const soundOnly = use === 'sound' || asset.kind === 'sound' || (target?.kind === 'sound' && asset.sounds.length > 0)
    const picture = soundOnly ? null : target?.kind === 'picture' ? target : (aimed ?? backPicture)
    // Picture and sound begin on one frame and end on one, whatever the footage's own rate.
    if (picture && rate) at = snapToFrame(at, rate)
    const end = picture && rate ? snapToFrame(at + long, rate) : at + long
    const sound =
      asset.sounds.length > 0 && use !== 'picture' ? soundTrack(project, rows, to, picture, asset, at, end) : null
    if (!picture && !sound) return `There is no track for ${asset.name}. Add one.`
    const base = {
      ...(nested ? { nestedId: asset.id } : { assetId: asset.id }),
      start: at,
      source: from,
      link: picture && sound ? crypto.randomUUID() : null,
    }
    for (const [track, stream] of [
      [picture, null],
      [sound, 0],
    ] as const) {
      if (!track) continue
      const length = stream === null ? long : Math.max(1, Math.min(long, end - at))
      pieces.push({ ...base, length, clipId: crypto.randomUUID(), trackId: track.id, stream })
      ghosts.push({ trackId: track.id, start: at, length })
    }
    at = end
  }
  return { pieces, ghosts, end: at }
}

/** What placing sources one after the other from `start` would do. */
export function planPlace(
  project: Project,
  rows: readonly Row[],
  parts: readonly Part[],
  to: Destination,
  start: number,
  over: boolean,
): DropPlan {
  const reel = rows[0] ? project.reels[rows[0].track.reelId] : undefined
  if (!reel) return { command: null, words: 'There is no track to put this on. Add one.', ghosts: [] }
  const loose = layOut(project, rows, parts, { ...to, room: true }, start)
  const firm = layOut(project, rows, parts, { ...to, room: false }, start)
  if (typeof loose === 'string' || typeof firm === 'string')
    return { command: null, words: typeof loose === 'string' ? loose : String(firm), ghosts: [] }
  return decide(
    project,
    (mode) => {
      const { pieces, ghosts } = mode === 'free' ? loose : firm
      return { command: { type: 'place', pieces, mode }, ghosts }
    },
    over,
    formatTimecode(Math.max(0, start), reel.format.rate),
    { mode: 'insert', by: firm.end - Math.max(0, start) },
  )
}

/** What is dragged from the library, a source strip or a pick: sources, each whole or a part of it. */
export interface DraggedParts {
  kind: 'parts'
  parts: { assetId: string; from?: number; length?: number; use?: Part['use'] }[]
}
