import { power } from '@dusk/timeline'
import { colourParts } from '../../colour'

/** Luma of a colour as it is shown: ITU-R BT.709-6. */
export const luma = (rgb: Float64Array): number => 0.2126 * rgb[0]! + 0.7152 * rgb[1]! + 0.0722 * rgb[2]!

export const clamp = (value: number): number => (value < 0 ? 0 : value > 1 ? 1 : value)

/** Goes from 0 at `low` to 1 at `high`, slowly at both. */
export function smooth(low: number, high: number, value: number): number {
  const t = clamp((value - low) / (high - low))
  return t * t * (3 - 2 * t)
}

/** A `#rrggbb` colour as parts of 1. */
export const parts = (hex: unknown): [number, number, number] => {
  const [r, g, b] = colourParts(String(hex))
  return [r / 255, g / 255, b / 255]
}

/** Every channel by a function of its own. */
export const eachChannel = (change: (value: number) => number) => (rgb: Float64Array) => {
  for (let c = 0; c < 3; c++) rgb[c] = change(rgb[c]!)
}

/** Channels raised to a power, below zero left alone. */
export const gamma = (exponent: number) => (value: number) => (value <= 0 ? value : power(value, exponent))

/** More or less colour: 1 leaves it, 0 is grey. */
export function saturate(rgb: Float64Array, by: number): void {
  const l = luma(rgb)
  for (let c = 0; c < 3; c++) rgb[c] = l + (rgb[c]! - l) * by
}

/** How colourful a colour is: the widest way between two channels. */
export const chroma = (rgb: Float64Array): number =>
  Math.max(rgb[0]!, rgb[1]!, rgb[2]!) - Math.min(rgb[0]!, rgb[1]!, rgb[2]!)

/** Goes part of the way to a colour that is as bright: a tint. */
export function tintTo(rgb: Float64Array, to: readonly [number, number, number], amount: number): void {
  const l = luma(rgb)
  const own = 0.2126 * to[0] + 0.7152 * to[1] + 0.0722 * to[2]
  for (let c = 0; c < 3; c++) rgb[c]! += (to[c]! - own) * amount * 4 * l * (1 - l)
}
