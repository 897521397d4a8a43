import { resolveParams, type Params } from '@dusk/timeline'
import { balance } from '../correction/balance'
import { levels } from '../correction/levels'
import { tone } from '../correction/tone'
import { wheels } from '../correction/wheels'
import type { ColourEffect } from '../define'
import { chroma, luma } from './tools'

/** Most colours of a picture that are looked at. */
const SAMPLES = 1500

/** An effect with settings that were worked out; they are ordinary settings and can be changed. */
export interface FoundEffect {
  kind: string
  settings: Params
}

/** Colours of a picture, red, green and blue of 0 to 1, spread evenly over it. @param pixels straight RGBA */
export function coloursOf(pixels: Uint8ClampedArray | Uint8Array): Float64Array[] {
  const count = pixels.length / 4
  const step = Math.max(1, Math.floor(count / SAMPLES))
  const found: Float64Array[] = []
  for (let i = 0; i < count; i += step) {
    if (pixels[i * 4 + 3]! < 200) continue
    found.push(Float64Array.from([0, 1, 2], (c) => pixels[i * 4 + c]! / 255))
  }
  return found
}

const sorted = (values: number[]) => values.sort((a, b) => a - b)
const rankOf = (values: readonly number[], part: number) =>
  values[Math.min(values.length - 1, Math.max(0, Math.round(part * (values.length - 1))))] ?? 0

/** Levels that bring the darkest and brightest half a hundredth to black and white, the middle to its usual place. */
export function autoLevels(pixels: Uint8ClampedArray): FoundEffect {
  const lumas = sorted(coloursOf(pixels).map(luma))
  const round = (value: number) => Math.round(value * 10) / 10
  // Never more than a third: what is dark on purpose stays dark.
  const low = Math.min(0.3, rankOf(lumas, 0.005))
  const high = Math.max(0.75, rankOf(lumas, 0.995), low + 0.1)
  const middle = Math.min(0.9, Math.max(0.05, (rankOf(lumas, 0.5) - low) / (high - low)))
  // Half of the way to a middle of 0.42.
  const power = Math.log(middle * 0.5 + 0.21) / Math.log(middle)
  const gammaOf = Math.min(1.8, Math.max(0.65, 1 / power))
  return {
    kind: levels.id,
    settings: { inBlack: round(low * 100), inWhite: round(high * 100), middle: Math.round(gammaOf * 100) / 100 },
  }
}

/** Colours changed by an effect with some settings. */
function changed(kind: ColourEffect, settings: Params, colours: readonly Float64Array[]): Float64Array[] {
  const change = kind.colour(resolveParams(kind.params, settings, 0), () => null)
  return colours.map((colour) => {
    const out = Float64Array.from(colour)
    change(out)
    return out
  })
}

/**
 * Whole settings within ±100 that make something least: tried in ever smaller steps along each.
 * @param cost of a set of values
 */
function least(keys: number, cost: (values: readonly number[]) => number): number[] {
  let best = Array.from({ length: keys }, () => 0)
  let lowest = cost(best)
  for (let step = 32; step >= 1; step /= 2)
    for (let turn = 0, better = true; better && turn < 12; turn++) {
      better = false
      for (let k = 0; k < keys; k++)
        for (const by of [-step, step]) {
          const tried = best.map((value, i) => (i === k ? Math.min(100, Math.max(-100, value + by)) : value))
          const c = cost(tried)
          if (c < lowest - 1e-9) [best, lowest, better] = [tried, c, true]
        }
    }
  return best
}

/** Warmth and tint with which colours are grey on the whole. @param colours that should be grey */
function neutral(colours: readonly Float64Array[]): FoundEffect {
  const [temperature, tint] = least(2, ([warm, pink]) => {
    const after = changed(balance, { temperature: warm!, tint: pink! }, colours)
    const mean = [0, 1, 2].map((c) => after.reduce((sum, rgb) => sum + rgb[c]!, 0) / after.length)
    return (mean[0]! - mean[1]!) ** 2 + (mean[2]! - mean[1]!) ** 2
  })
  return { kind: balance.id, settings: { temperature: temperature!, tint: tint! } }
}

/** How near to grey a colour is: 1 for a grey, next to nothing from a tenth of its brightness on. */
function greyness(rgb: Float64Array): number {
  const away = chroma(rgb) / Math.max(0.05, luma(rgb))
  return 1 / (1 + (away / 0.05) ** 4)
}

/** Part of a picture that has to be grey under a light for it to be believed. */
const GREY_ENOUGH = 0.12
/** How far its brightness has to be spread, as part of how far that of the whole picture is. */
const SPREAD_ENOUGH = 0.45

/**
 * Whether what is grey under a light tells of that light: things of one colour may be grey, too, as a sky at dusk is
 * under a light of its own. Grey things are of every brightness.
 * @param greys how grey each colour is under it
 */
function tells(colours: readonly Float64Array[], greys: readonly number[]): boolean {
  const deviation = (weights: readonly number[]) => {
    const sum = weights.reduce((a, b) => a + b, 0) || 1
    const mean = colours.reduce((total, rgb, i) => total + luma(rgb) * weights[i]!, 0) / sum
    return Math.sqrt(colours.reduce((total, rgb, i) => total + (luma(rgb) - mean) ** 2 * weights[i]!, 0) / sum)
  }
  const all = greys.reduce((sum, grey) => sum + grey, 0) / Math.max(1, greys.length)
  return all >= GREY_ENOUGH && deviation(greys) >= SPREAD_ENOUGH * deviation(greys.map(() => 1))
}

/**
 * White balance from the picture itself: of all lights it may have been taken in, the one in which most of it is grey,
 * as walls, streets and clouds are. Strong casts have to be told more clearly than weak ones. Without settings where
 * nothing grey is found to go by: the light of an evening is no error.
 */
export function autoWhite(pixels: Uint8ClampedArray): FoundEffect {
  const colours = coloursOf(pixels).filter((rgb, i) => i % 3 === 0 && luma(rgb) > 0.08 && luma(rgb) < 0.97)
  let best = { temperature: 0, tint: 0 }
  let most = -1
  for (let temperature = -48; temperature <= 48; temperature += 8)
    for (let tint = -24; tint <= 24; tint += 8) {
      const after = changed(balance, { temperature, tint }, colours)
      const greys = after.reduce((sum, rgb) => sum + greyness(rgb), 0) / Math.max(1, colours.length)
      const worth = greys * (1 - (temperature * temperature + tint * tint) / 30_000)
      if (worth > most) [most, best] = [worth, { temperature, tint }]
    }
  const under = changed(balance, best, colours).map(greyness)
  if (!tells(colours, under)) return { kind: balance.id, settings: {} }
  // From there on exactly: what is nearly grey by now is brought to grey.
  const near = colours.filter((_, i) => greyness(changed(balance, best, [colours[i]!])[0]!) > 0.3)
  if (near.length === 0) return { kind: balance.id, settings: {} }
  // Most of the way and never far: the colour of an evening is meant.
  const found = neutral(near).settings as { temperature: number; tint: number }
  const held = (value: number, most: number) => Math.round(Math.min(most, Math.max(-most, value * 0.85)))
  return { kind: balance.id, settings: { temperature: held(found.temperature, 48), tint: held(found.tint, 24) } }
}

/** White balance from a place that is known to be grey. @param hex its colour as it is shown */
export function whiteFrom(hex: string): FoundEffect {
  const value = Number.parseInt(hex.slice(1), 16)
  return neutral([Float64Array.from([(value >> 16) / 255, ((value >> 8) & 255) / 255, (value & 255) / 255])])
}

/**
 * Oklab (B. Ottosson, "A perceptual color space for image processing", 2020) of a colour as it is shown, with a display
 * gamma of 2.2.
 */
export function oklab(rgb: Float64Array): [number, number, number] {
  const [r, g, b] = [0, 1, 2].map((c) => Math.max(0, rgb[c]!) ** 2.2) as [number, number, number]
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b)
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b)
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b)
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ]
}

/** What a picture is like: lightness at five ranks, colourfulness, and the colour of its shadows, middle and lights. */
function likeness(colours: readonly Float64Array[]) {
  const labs = colours.map(oklab)
  const lights = sorted(labs.map(([l]) => l))
  const ranks = [0.05, 0.25, 0.5, 0.75, 0.95].map((part) => rankOf(lights, part))
  const third = (from: number, to: number) => {
    const [low, high] = [rankOf(lights, from), rankOf(lights, to)]
    const own = labs.filter(([l]) => l >= low && l <= high)
    const mean = (k: 1 | 2) => own.reduce((sum, lab) => sum + lab[k], 0) / Math.max(1, own.length)
    return [mean(1), mean(2)] as const
  }
  const colourful = labs.reduce((sum, [, a, b]) => sum + Math.sqrt(a * a + b * b), 0) / Math.max(1, labs.length)
  return { ranks, colourful, tints: [third(0, 0.33), third(0.33, 0.67), third(0.67, 1)] }
}
type Likeness = ReturnType<typeof likeness>

/**
 * Settings with which one picture looks like another: light first, then warmth, then what its shadows and lights lack;
 * compared in a perceptual space.
 */
export function matchTo(pixels: Uint8ClampedArray, wanted: Uint8ClampedArray): FoundEffect[] {
  // Fewer will do while settings are tried.
  const few = (list: readonly Float64Array[]) => list.filter((_, i) => i % 4 === 0)
  const goal = likeness(few(coloursOf(wanted)))
  let colours = coloursOf(pixels)
  const found: FoundEffect[] = []
  const settle = (kind: ColourEffect, keys: readonly string[], scale: number, cost: (like: Likeness) => number) => {
    const tried = few(colours)
    const settingsOf = (values: readonly number[]): Params =>
      Object.fromEntries(keys.map((key, i) => [key, key === 'exposure' ? values[i]! / 40 : values[i]! * scale]))
    const values = least(keys.length, (v) => cost(likeness(changed(kind, settingsOf(v), tried))))
    const settings = Object.fromEntries(Object.entries(settingsOf(values)).filter(([, value]) => value !== 0))
    if (Object.keys(settings).length === 0) return
    found.push({ kind: kind.id, settings })
    colours = changed(kind, settings, colours)
  }
  const square = (a: number, b: number) => (a - b) * (a - b)
  const lightness = ({ ranks }: Likeness) => ranks.reduce((sum, l, i) => sum + square(l, goal.ranks[i]!), 0)
  settle(tone, ['exposure', 'contrast', 'shadows', 'highlights'], 1, lightness)
  const tinted = (like: Likeness, parts: readonly number[]) =>
    parts.reduce((sum, i) => {
      const [own, other] = [like.tints[i]!, goal.tints[i]!]
      return sum + square(own[0], other[0]) + square(own[1], other[1])
    }, 0)
  settle(balance, ['temperature', 'tint', 'saturation'], 1, (like) => {
    return tinted(like, [0, 1, 2]) + square(like.colourful, goal.colourful)
  })
  for (const [key, part] of [
    ['shadows', 0],
    ['lights', 2],
  ] as const) {
    const tried = few(colours)
    const settingsOf = ([x, y]: readonly number[]): Params => ({ [`${key}Tint`]: [x!, y!] })
    const values = least(2, (v) => tinted(likeness(changed(wheels, settingsOf(v), tried)), [part]))
    if (values.every((value) => Math.abs(value) < 2)) continue
    const before = found.find(({ kind }) => kind === wheels.id)
    if (before) Object.assign(before.settings, settingsOf(values))
    else found.push({ kind: wheels.id, settings: settingsOf(values) })
    colours = changed(wheels, settingsOf(values), colours)
  }
  return found
}

/** How unlike two pictures are, for telling what was won: 0 alike; black against white is about 2. */
export function unlike(pixels: Uint8ClampedArray, wanted: Uint8ClampedArray): number {
  const [a, b] = [likeness(coloursOf(pixels)), likeness(coloursOf(wanted))]
  const square = (x: number, y: number) => (x - y) * (x - y)
  const tints = a.tints.reduce((sum, [x, y], i) => sum + square(x, b.tints[i]![0]) + square(y, b.tints[i]![1]), 0)
  return Math.sqrt(a.ranks.reduce((sum, l, i) => sum + square(l, b.ranks[i]!), 0) + tints)
}
