import type { TimeMap } from '../document/clip'
import type { SoundFade } from '../document/transition'
import type { Purpose } from '../document/track'
import type { Animated } from '../params/animated'
import type { ChannelChoice } from '../params/soundParams'
import type { Params } from '../params/spec'

/** A stretch of a piece over which it comes or goes, in samples from the piece's start; may reach beyond it. */
export interface SoundFadePlan {
  from: number
  length: number
  shape: SoundFade
  direction: 'in' | 'out'
}

/** An effect in a stack. */
export interface SoundEffectPlan {
  id: string
  kind: string
  settings: Params
  /** 0 to 100. */
  strength: number
}

/** How something is made louder, put to a side and treated. */
export interface SoundChannelPlan {
  /** In decibels, all the time. */
  gain: number
  /** In decibels, where it changes over time or is not zero. */
  level?: Animated<number>
  /** −100 left … 100 right. */
  pan?: Animated<number>
  effects?: readonly SoundEffectPlan[]
}

/** How a piece plays that does not run at its source's own speed and pitch. */
export interface SoundTimePlan {
  map: TimeMap
  /** Pitch kept, or going with the speed as with a tape. */
  pitch: 'keep' | 'follow'
  /** Semitones on top. */
  shift: number
  engine: 'music' | 'speech'
}

/** A stretch of one source in the mix. All numbers are samples at 48 kHz. */
export interface SoundPiece extends SoundChannelPlan {
  /** What plays: a stream of a source, or another reel. */
  assetId: string
  stream: number
  nested?: SoundPlan
  /** Place in the plan's list of tracks. */
  track: number
  /** Where it begins in the mix, counted from the start of the planned range; may be negative. */
  at: number
  length: number
  /** Sample of the source that plays at `at`, at its own speed. May lie outside the source, which is silent there. */
  from: number
  /** Clip time at `at`, in ticks: what keyframes and the map of time go by. */
  clock: number
  time?: SoundTimePlan
  channels?: ChannelChoice
  /** Left and right in decibels, where they are set apart. */
  sides?: readonly [Animated<number>, Animated<number>]
  fades?: SoundFadePlan[]
  /** Its start or end would be a click: nothing goes on there. */
  abrupt?: { start: boolean; end: boolean }
}

/** One sound track: what its pieces are summed to. */
export interface SoundTrackPlan extends SoundChannelPlan {
  id: string
  purpose: Purpose
}

/**
 * Everything needed to mix a range, as plain data: pieces into tracks, tracks into the reel. A nested reel is a piece
 * with a plan of its own.
 */
export interface SoundPlan {
  length: number
  /** Reel position of the plan's first sample, in ticks: what keyframes of tracks and the reel go by. */
  start: number
  tracks: SoundTrackPlan[]
  pieces: SoundPiece[]
  reel: SoundChannelPlan
}
