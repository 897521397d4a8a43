/** Columns and levels of the waveform and the parade, and sides of the vectorscope. */
export const SCOPE_SIZE = { columns: 128, levels: 128, vector: 96 } as const

/** What scopes show of a picture: how many pixels fall on each place. */
export interface Scopes {
  /** For luma, red, green and blue: 256 counts each. */
  histogram: Uint32Array
  /** For luma, red, green and blue: `levels` counts for each of `columns`, darkest first. */
  waveform: Uint16Array
  /** Colour differences: `vector` rows of `vector` counts, Cr upwards from the last row, Cb to the right. */
  vector: Uint16Array
  /** Parts of the picture, 0 to 1, in which a channel has nothing left below or above. */
  dark: number
  bright: number
}

/** Most pixels that are looked at. */
const SAMPLES = 80_000

/**
 * Counts a picture for its scopes. Luma and colour differences are those of ITU-R BT.709.
 * @param pixels opaque RGBA
 */
export function scopesOf(pixels: Uint8Array | Uint8ClampedArray, width: number, height: number): Scopes {
  const { columns, levels, vector: side } = SCOPE_SIZE
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / SAMPLES)))
  const histogram = new Uint32Array(4 * 256)
  const waveform = new Uint16Array(4 * columns * levels)
  const vector = new Uint16Array(side * side)
  const plane = columns * levels
  let [dark, bright, count] = [0, 0, 0]
  for (let y = 0; y < height; y += step)
    for (let x = 0; x < width; x += step) {
      const i = (y * width + x) * 4
      const [r, g, b] = [pixels[i]!, pixels[i + 1]!, pixels[i + 2]!]
      const l = (54 * r + 183 * g + 19 * b) >> 8
      histogram[l]!++
      histogram[256 + r]!++
      histogram[512 + g]!++
      histogram[768 + b]!++
      const at = Math.floor((x * columns) / width) * levels
      waveform[at + (l >> 1)]!++
      waveform[plane + at + (r >> 1)]!++
      waveform[2 * plane + at + (g >> 1)]!++
      waveform[3 * plane + at + (b >> 1)]!++
      const cb = Math.floor(((-0.1146 * r - 0.3854 * g + 0.5 * b + 128) * side) / 256)
      const cr = Math.floor(((0.5 * r - 0.4542 * g - 0.0458 * b + 128) * side) / 256)
      vector[(side - 1 - Math.min(cr, side - 1)) * side + Math.min(cb, side - 1)]!++
      if (r === 0 || g === 0 || b === 0) dark++
      if (r === 255 || g === 255 || b === 255) bright++
      count++
    }
  return { histogram, waveform, vector, dark: dark / Math.max(1, count), bright: bright / Math.max(1, count) }
}

/** Width of a stripe of the zebra in pixels. */
const STRIPE = 6

/** Draws stripes over what has nothing left: rose over white, dusk over black. Changes the pixels. */
export function drawZebra(pixels: Uint8ClampedArray, width: number, height: number): void {
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      const most = Math.max(pixels[i]!, pixels[i + 1]!, pixels[i + 2]!)
      if ((most < 254 && most > 2) || ((x + y) / STRIPE) & 1) continue
      const [r, g, b] = most >= 254 ? [236, 127, 149] : [142, 162, 242]
      pixels[i] = r
      pixels[i + 1] = g
      pixels[i + 2] = b
    }
}
