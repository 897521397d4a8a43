import { numberParam as number, percentParam as percent } from '@dusk/timeline'
import type { NumberRest, Param, Params, Value } from '@dusk/timeline'

/** Samples that effects are given at a time: blocks begin at multiples of it, however a mix is cut. */
export const QUANTUM = 128

export { number, percent }

/** Settings at a moment, by key. The same object as before means that nothing changed. */
export type Settings = Readonly<Record<string, Value>>

/** An effect at work, with what it remembers. */
export interface SoundEffect {
  /**
   * Treats a block of {@link QUANTUM} samples in place.
   * @param at the owner's time at its first sample, in samples: for what works in frames of its own
   */
  process(left: Float32Array, right: Float32Array, settings: Settings, at: number): void
  /** How much the last block was held down, in decibels; 0 or less. For meters. */
  reduction?: number
}

/** A kind of sound effect; each lies in a file of its own and is listed in `effects/index.ts`. */
export interface SoundEffectKind {
  id: string
  name: string
  family: SoundFamily
  /** A sentence about what it does. */
  hint: string
  params: readonly Param[]
  presets: readonly SoundPreset[]
  /** Samples that come out later than they went in: a multiple of {@link QUANTUM}. */
  latency?: number
  /** Seconds for which something that was heard still matters: the tail, and what a seek has to run up. */
  memory: number
  /** Waited for before any of it is heard: what has to be fetched first. */
  load?(): Promise<void>
  create(): SoundEffect
  /** Loudness of a frequency in decibels, where the effect is a filter: it is drawn. */
  response?(settings: Settings): (hz: number) => number
  /** Level out by level in, both in decibels, where it works on levels: it is drawn. */
  transfer?(settings: Settings): (db: number) => number
}

/** Ready-made settings with a name of their own. */
export interface SoundPreset {
  id: string
  name: string
  settings: Params
}

/** Kinds of effects as the gallery sorts them. */
export const SOUND_FAMILIES = [
  { id: 'tone', name: 'Tone' },
  { id: 'level', name: 'Level' },
  { id: 'repair', name: 'Repair' },
  { id: 'space', name: 'Space' },
  { id: 'motion', name: 'Motion' },
  { id: 'character', name: 'Character' },
] as const
export type SoundFamily = (typeof SOUND_FAMILIES)[number]['id']

export function defineSoundEffect(kind: SoundEffectKind): SoundEffectKind {
  return kind
}

/** A level in decibels. */
export const db = (key: string, label: string, min: number, max: number, initial: number, rest: NumberRest = {}) =>
  number(key, label, min, max, initial, { unit: 'dB', digits: 1, step: 0.1, ...rest })
/** A frequency. */
export const hz = (key: string, label: string, initial: number, min = 20, max = 20_000, rest: NumberRest = {}) =>
  number(key, label, min, max, initial, { unit: 'Hz', digits: 0, ...rest })
/** A time in milliseconds. */
export const ms = (key: string, label: string, min: number, max: number, initial: number) =>
  number(key, label, min, max, initial, { unit: 'ms', digits: 1 })

/** A preset. */
export const preset = (id: string, name: string, settings: Params): SoundPreset => ({ id, name, settings })

/** Works something out from settings and keeps it until they change. */
export function kept<T>(make: (settings: Settings) => T): (settings: Settings) => T {
  let last: Settings | null = null
  let value: T
  return (settings) => {
    if (settings !== last) {
      value = make(settings)
      last = settings
    }
    return value
  }
}
