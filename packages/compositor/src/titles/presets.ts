import { TICKS_PER_SECOND, TITLE_PARAMS, type Params, type Title, type TitleMove } from '@dusk/timeline'
import { callouts } from './presets/callouts'
import { captions } from './presets/captions'
import { chapters } from './presets/chapters'
import { closings } from './presets/closings'
import { credits } from './presets/credits'
import { EXTENTS } from './presets/extents'
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
  return { move: move.move, length: Math.round(seconds * TICKS_PER_SECOND), unit, order, overlap, settings: {} }
}

/** Lengths that a preset leaves as they are; they grow with the reel all the same. */
const USUAL_LENGTHS: Params = Object.fromEntries(
  TITLE_PARAMS.filter(({ key }) => LENGTHS.includes(key) && key !== 'width' && key !== 'size').map((param) => [
    param.key,
    param.default as number,
  ]),
)

/** Part of a frame's width and height that titles stay within: the title safe area of SMPTE RP 218. */
export const TITLE_SAFE = 0.9

/** Pixels by which a preset reaches beyond its words, at each side and above and below, in a reel 1080 high. */
function beyond({ box = 0, boxPadding = 24, boxEdge, size, outline = 0 }: Params): [number, number] {
  const edge = outline as number
  // Flourishes and slanted letters lean out of their boxes.
  if (!box) return [edge + (size as number) * 0.1, edge]
  const thick = boxEdge === 'all' ? 0 : Math.max(2, (size as number) * 0.07)
  return [Math.max(edge, (boxPadding as number) + thick), Math.max(edge, (boxPadding as number) / 2 + thick)]
}

/**
 * A preset as the title and the place that a reel of some size gets: as large as the shorter side asks for, smaller
 * where it would leave the safe area, and moved into that.
 */
export function presetTitle(
  preset: TitlePreset,
  format: { width: number; height: number },
): { title: Title; params: Params; length: number } {
  // A tall reel is as wide as a wide one is high: what matters is the shorter side.
  const usual = Math.min(format.width, format.height) / 1080
  const [across, down] = EXTENTS[preset.id] ?? [0, 0]
  const [besides, above] = beyond(preset.style)
  const { travel } = preset.style
  const [wide, high] = [travel === 'crawl' ? 0 : across + 2 * besides, travel === 'roll' ? 0 : down + 2 * above]
  const fits = (room: number, extent: number) => (extent > 0 ? (room * TITLE_SAFE) / extent : Infinity)
  const factor = Math.min(usual, fits(format.width, wide), fits(format.height, high))
  const title: Title = {
    text: preset.text,
    style: grown({ ...USUAL_LENGTHS, ...preset.style }, factor),
    runs: (preset.runs ?? []).map((run) => ({ ...run, style: grown(run.style, factor) })),
    in: moveOf(preset.in),
    out: moveOf(preset.out),
    during: moveOf(preset.during),
  }
  // From the middle of the frame, as far as the safe area lets it.
  const place = (at: number, room: number, extent: number) => {
    const free = Math.max(0, Math.floor((room * TITLE_SAFE - extent * factor) / 2))
    return Math.min(free, Math.max(-free, Math.round((at - 0.5) * room)))
  }
  const params: Params = preset.at
    ? { position: [place(preset.at[0], format.width, wide), place(preset.at[1], format.height, high)] }
    : {}
  return { title, params, length: Math.round((preset.seconds ?? 4) * TICKS_PER_SECOND) }
}
