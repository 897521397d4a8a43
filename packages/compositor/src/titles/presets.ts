import type { Params, Title, TitleMove } from '@dusk/timeline'
import { callouts } from './presets/callouts'
import { captions } from './presets/captions'
import { chapters } from './presets/chapters'
import { closings } from './presets/closings'
import { credits } from './presets/credits'
import { lowerThirds } from './presets/lowerThirds'
import { openings } from './presets/openings'

/** Families of ready-made titles, in the order they are shown. */
export const TITLE_FAMILIES = {
  openings: 'Titles',
  lowerThirds: 'Lower thirds',
  captions: 'Captions',
  callouts: 'Callouts',
  chapters: 'Chapter cards',
  credits: 'Credits',
  closings: 'Closing cards',
} as const
export type TitleFamily = keyof typeof TITLE_FAMILIES

/** A ready-made title. Lengths are pixels of a reel 1080 high and grow with it. */
export interface TitlePreset {
  id: string
  name: string
  text: string
  style: Params
  /** Letters of the text with a look of their own. */
  runs?: { from: number; to: number; style: Params }[]
  /** Where its middle is, as parts of the frame; the middle when left out. */
  at?: readonly [number, number]
  in?: PresetMove
  out?: PresetMove
  during?: PresetMove
  seconds?: number
}

/** A move with what is usual filled in. */
export type PresetMove = { move: string; seconds: number } & Partial<Pick<TitleMove, 'unit' | 'order' | 'overlap'>>

/** Every ready-made title by its family. */
export const TITLE_PRESETS: Readonly<Record<TitleFamily, readonly TitlePreset[]>> = {
  openings,
  lowerThirds,
  captions,
  callouts,
  chapters,
  credits,
  closings,
}

/** Settings of titles that are lengths: they grow with the reel. */
const LENGTHS = [
  'size',
  'spacing',
  'outline',
  'shadowDistance',
  'shadowBlur',
  'glow',
  'boxPadding',
  'boxCornerRadius',
  'width',
]
const TICKS = 705_600_000

/** A title's look in a reel `factor` times as large: its lengths grow with it. */
export function grown(style: Params, factor: number): Params {
  return Object.fromEntries(
    Object.entries(style).map(([key, value]) => [
      key,
      LENGTHS.includes(key) && typeof value === 'number' ? Math.round(value * factor * 10) / 10 : value,
    ]),
  )
}

function moveOf(move: PresetMove | undefined): TitleMove | null {
  if (!move) return null
  const { seconds, unit = 'whole', order = 'forward', overlap = 60 } = move
  return { move: move.move, length: Math.round(seconds * TICKS), unit, order, overlap, settings: {} }
}

/** A preset as the title and the place that a reel of some size gets. */
export function presetTitle(
  preset: TitlePreset,
  format: { width: number; height: number },
): { title: Title; params: Params; length: number } {
  // A tall reel is as wide as a wide one is high: what matters is the shorter side.
  const factor = Math.min(format.width, format.height) / 1080
  const title: Title = {
    text: preset.text,
    style: grown(preset.style, factor),
    runs: (preset.runs ?? []).map((run) => ({ ...run, style: grown(run.style, factor) })),
    in: moveOf(preset.in),
    out: moveOf(preset.out),
    during: moveOf(preset.during),
  }
  const params: Params = preset.at
    ? { position: [Math.round((preset.at[0] - 0.5) * format.width), Math.round((preset.at[1] - 0.5) * format.height)] }
    : {}
  return { title, params, length: Math.round((preset.seconds ?? 4) * TICKS) }
}
