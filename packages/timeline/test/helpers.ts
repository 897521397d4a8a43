import {
  applyCommand,
  clipsOn,
  CommandRefused,
  commandSchema,
  createProject,
  frameToTicks,
  tracksOf,
  type Asset,
  type CommandInput,
  type Project,
  type Rate,
} from '../src/index'

/** A deterministic UUID that ends in `n`. */
export function uuid(n: number): string {
  return `00000000-0000-4000-8000-${n.toString(16).padStart(12, '0')}`
}

/** A source of ids that counts. */
export function counter(from = 1): () => string {
  let n = from
  return () => uuid(n++)
}

export const RATE_30: Rate = { num: 30, den: 1 }
export const HARBOUR = uuid(0xa1)
export const SONG = uuid(0xa2)
export const CARD = uuid(0xa3)

const second = 705_600_000

const UNFILED = { folderId: null, label: null, note: '' }

/** Harbour: 10 s of picture with sound; song: 60 s of sound; card: a still with transparency. */
export const ASSETS: Asset[] = [
  {
    id: HARBOUR,
    name: 'harbour-wide.mp4',
    kind: 'video',
    length: 10 * second,
    picture: { width: 1920, height: 1080, rate: RATE_30, variable: false, alpha: false },
    sounds: [{ channels: 2, length: 10 * second, title: '' }],
    ...UNFILED,
  },
  {
    id: SONG,
    name: 'night-song.wav',
    kind: 'sound',
    length: 60 * second,
    picture: null,
    sounds: [{ channels: 2, length: 60 * second, title: '' }],
    ...UNFILED,
  },
  {
    id: CARD,
    name: 'lantern-card.png',
    kind: 'still',
    length: 0,
    picture: { width: 800, height: 600, rate: null, variable: false, alpha: true },
    sounds: [],
    ...UNFILED,
  },
]

/** A project at 1920 × 1080 with the three sources, and its parts by name. */
export function desk(rate: Rate = RATE_30) {
  const empty = createProject('Lantern Night', { width: 1920, height: 1080, rate }, counter(0x100))
  const project: Project = { ...empty, assets: Object.fromEntries(ASSETS.map((asset) => [asset.id, asset])) }
  const reelId = Object.keys(project.reels)[0]!
  const [picture1, picture2, voice, music, effects] = tracksOf(project, reelId)
  return { project, reelId, picture1: picture1!, picture2: picture2!, voice: voice!, music: music!, effects: effects! }
}

let seeds = 0x5000_0000

/** Carries out a command given as plain input. */
export function run(project: Project, input: CommandInput): Project {
  return applyCommand(project, commandSchema.parse(input), uuid(seeds++)).project
}

/** Ticks of a frame number at 30 a second. */
export function f(frame: number): number {
  return frameToTicks(frame, RATE_30)
}

/** Places `length` frames of harbour at `start`, picture and sound linked. Returns the ids of both. */
export function placePair(
  project: Project,
  picture: string,
  sound: string,
  n: number,
  start: number,
  length: number,
  source = 0,
  mode: 'free' | 'insert' | 'over' = 'free',
) {
  const [p, s, link] = [uuid(n), uuid(n + 1), uuid(n + 2)]
  const base = { assetId: HARBOUR, start: f(start), length: f(length), source: f(source), link }
  const next = run(project, {
    type: 'place',
    mode,
    pieces: [
      { ...base, clipId: p, trackId: picture, stream: null },
      { ...base, clipId: s, trackId: sound, stream: 0 },
    ],
  })
  return { project: next, p, s }
}

/** Start and length of a track's clips, in frames at 30 a second. */
export function layout(project: Project, trackId: string): [number, number][] {
  return clipsOn(project, trackId).map((clip) => [Math.round(clip.start / f(1)), Math.round(clip.length / f(1))])
}

/** The refusal that an action ends in. */
export function refusal(action: () => unknown): CommandRefused {
  try {
    action()
  } catch (error) {
    if (error instanceof CommandRefused) return error
    throw error
  }
  throw new Error('the command was not refused')
}
