import type { Rect, Scopes, TitleMeasure } from '@dusk/compositor'
import type { DocumentDelta, FramePlan, TitleLayer } from '@dusk/timeline'
import type { SoundAnswer, SoundTask } from './mixTasks'

/** A question about a title's letters: where a range of them is, which one is at a point of the frame. */
export interface TitleLayoutRequest {
  layer: TitleLayer
  range?: [from: number, to: number]
  at?: [x: number, y: number]
}

export interface TitleLayoutReply {
  measure: TitleMeasure
  rects: Rect[]
  /** Boxes drawn for letters that no font has. */
  missing: Rect[]
  letter: number | null
}

/** What the workers need to know of a source's preview files. */
export interface WorkerSource {
  kind: 'video' | 'sound' | 'still'
  /** The proxy, or a still's preview picture, and its size; `null` before it is there, and for sounds. */
  picture: { url: string; width: number; height: number } | null
  /** Before there is a proxy: the folder and numbers of its finished pieces, and where to say which frames are seen. */
  pieces: { url: string; there: number[]; nearUrl: string } | null
  /** Files of frames made between its own, by the name of their stretch: those that are there. */
  made: Record<string, string>
  /** Addresses of the frame table, of the file itself, and of a still at full size. */
  tableUrl: string
  originalUrl: string
  stillUrl: string | null
  /** Where the server gives frames of a moving picture at the size of a proxy. */
  planesUrl: string | null
  /** Pixels of a picture at full size. */
  pixels: number
  /** The original can be decoded here as it is. */
  plain: boolean
  /** Channels of each sound stream, and whether its file is there. */
  sounds: { channels: number; samples: number; url: string; ready: boolean }[]
}

export type Sources = Record<string, WorkerSource>

/** How play runs: reel position at the start, ticks moved on per tick of sound, and the shared clock. */
export interface PlayOrder {
  start: number
  speed: number
  /** Samples by which sound is heard later than it is played. */
  latency: number
  /** Number of this start; answers that belong to an earlier one are passed over. */
  run: number
}

/** What is wanted beside the picture itself. */
export interface Looking {
  /** Counts of what is shown. */
  scopes: boolean
  /** Stripes over what has nothing left. */
  zebra: boolean
  /** Part of the picture's width, from the left, that is shown without effects; `null` for none. */
  bareTo: number | null
}

export type PreviewRequest =
  | {
      kind: 'start'
      canvas: OffscreenCanvas
      kernels: { alone: string; shared: string }
      threads: number
      ring: SharedArrayBuffer
    }
  | { kind: 'document'; delta: DocumentDelta; reelId: string }
  | { kind: 'sources'; sources: Sources }
  | { kind: 'size'; width: number; height: number }
  /** A place to be shown; `running` where it is one of a run of them, as another window plays. */
  | { kind: 'show'; tick: number; running?: boolean }
  /** The place that stands there drawn again, from originals and at another size. */
  | { kind: 'sharpen'; tick: number; width: number; height: number }
  | { kind: 'splitView'; plans: readonly FramePlan[] }
  | ({ kind: 'play' } & PlayOrder)
  | { kind: 'pause' }
  | ({ kind: 'looking' } & Looking)
  | { kind: 'titleLayout'; id: number; ask: TitleLayoutRequest }
  | { kind: 'thumbnail'; id: number; plan: FramePlan }
  | { kind: 'captureFrame'; id: number; tick: number; width: number; height: number }

export type PreviewReply =
  | { kind: 'ready' }
  | { kind: 'primed'; run: number }
  | { kind: 'shown'; tick: number; ms: number; helped: number }
  | { kind: 'scopes'; scopes: Scopes }
  | { kind: 'stats'; shown: number; dropped: number; late: number; worstLag: number }
  | { kind: 'titleLayout'; id: number; answer: TitleLayoutReply }
  | { kind: 'thumbnail'; id: number; picture: ImageBitmap | null }
  | { kind: 'frame'; id: number; png: Blob }
  | { kind: 'refused'; id: number; message: string }
  | { kind: 'failed'; message: string }

export type MixRequest =
  | { kind: 'start'; ring: SharedArrayBuffer }
  | { kind: 'document'; delta: DocumentDelta; reelId: string }
  | { kind: 'sources'; sources: Sources }
  | { kind: 'play'; start: number; speed: number; run: number }
  | { kind: 'grain'; at: number; run: number }
  /** The track, or the reel, whose spectrum is wanted. */
  | { kind: 'watch'; id: string | null }
  | { kind: 'task'; id: number; task: SoundTask }
  | { kind: 'pause' }

/** Highest of each side and the mean of both, as factors of full scale. */
export interface MeterReading {
  left: number
  right: number
  rms: number
}

/** What meters show of one moment of play. */
export interface Meters {
  run: number
  /** Output sample since play began at which it is heard. */
  at: number
  reel: MeterReading
  truePeak: number
  /** LUFS. */
  momentary: number | null
  shortTerm: number | null
  tracks: Record<string, MeterReading>
  /** Decibels that effects hold down, by their ids. */
  reductions: Record<string, number>
  /** Decibels at 64 frequencies from 20 Hz to 20 kHz. */
  spectrum: number[] | null
}

export type MixReply =
  | { kind: 'filled'; run: number }
  | { kind: 'meters'; meters: Meters }
  | { kind: 'progress'; id: number; part: number }
  | { kind: 'answer'; id: number; answer: SoundAnswer }
  | { kind: 'failed'; message: string }
