import { numberParam as number, percentParam as percent } from '@dusk/timeline'
import type { NumberRest, Param, Params, Value } from '@dusk/timeline'
import type { Cube } from './colour/cube'
import type { EffectStage } from './stage'

/** Families of effects, in the order they are shown. */
export const EFFECT_FAMILIES = {
  correction: 'Correction',
  looks: 'Looks',
  blur: 'Blur and focus',
  detail: 'Detail',
  light: 'Light',
  film: 'Film and tape',
  stylise: 'Stylise',
  bend: 'Bend',
  glitch: 'Glitch',
  key: 'Key and cut-out',
} as const
export type EffectFamily = keyof typeof EFFECT_FAMILIES

export { number, percent }

/** Settings at a moment, filled up with defaults. */
export type EffectSettings = Readonly<Record<string, Value>>

/** Changes a colour in place: red, green and blue as they are shown, 0 to 1. May leave that range. */
export type ColourChange = (rgb: Float64Array) => void

interface EffectBase {
  id: string
  name: string
  family: EffectFamily
  /** A sentence that says what is seen. */
  hint: string
  params: readonly Param[]
  presets: readonly EffectPreset[]
}

/** Tables of colours that were loaded, by the hash of their file; `null` while one is not there. */
export type CubeFiles = (hash: string) => Cube | null

/** A pure function of a colour: neighbouring ones become one table. */
export interface ColourEffect extends EffectBase {
  colour(settings: EffectSettings, files: CubeFiles): ColourChange
}

/** Draws with what lies around each pixel. */
export interface PictureEffect extends EffectBase {
  /** How far beyond a pixel it looks or draws, in pixels of the stage. */
  reach?(settings: EffectSettings, scale: number): number
  /** It acts outside its mask, and not at all without one. */
  outside?: boolean
  /** Changes `stage.picture`. */
  draw(stage: EffectStage, settings: EffectSettings): void
}

export type EffectKind = ColourEffect | PictureEffect

/** Ready-made settings with a name of their own. */
export interface EffectPreset {
  id: string
  name: string
  settings: Params
}

type Loose<K extends EffectKind> = Omit<K, 'presets' | 'params'> & Partial<Pick<K, 'presets' | 'params'>>

export const defineColour = (kind: Loose<ColourEffect>): ColourEffect => ({ params: [], presets: [], ...kind })
export const definePicture = (kind: Loose<PictureEffect>): PictureEffect => ({ params: [], presets: [], ...kind })

/** A number around zero: −100 to 100. */
export const swing = (key: string, label: string, initial = 0, rest: NumberRest = {}) =>
  number(key, label, -100, 100, initial, { digits: 0, ...rest })
/** A length in pixels of the reel. */
export const pixels = (key: string, label: string, initial: number, max: number, rest: NumberRest = {}) =>
  number(key, label, 0, max, initial, { unit: 'px', digits: 1, ...rest })
/** An angle. */
export const degrees = (key: string, label: string, initial: number, rest: NumberRest = {}) =>
  number(key, label, -360, 360, initial, { unit: '°', digits: 0, ...rest })
/** A colour. */
export const colour = (key: string, label: string, initial: string, group?: string): Param => ({
  ...{ kind: 'colour', key, label, default: initial },
  ...(group ? { group } : {}),
})
/** Which throw of the dice. */
export const seed = (): Param => number('seed', 'Variation', 0, 999, 1, { digits: 0 })
/** One of several named values. */
export const choice = (key: string, label: string, words: Record<string, string>): Param => ({
  kind: 'choice',
  key,
  label,
  default: Object.keys(words)[0]!,
  fixed: true,
  options: Object.entries(words).map(([value, text]) => ({ value, label: text })),
})

export const preset = (id: string, name: string, settings: Params): EffectPreset => ({ id, name, settings })
/** A setting as a number. */
export const num = (settings: EffectSettings, key: string): number => Number(settings[key])
