/** Along one axis: for outputs `from`…`to`, which source pixels make them and in what parts. */
export interface ResampleTable {
  from: number
  to: number
  /** Taps an output has; even. */
  taps: number
  /** First source pixel of each output. */
  starts: Int32Array
  /** Weights of each output, `taps` each, summing to 16384. */
  weights: Int16Array
  /** Part of the first and the last output that the picture covers, 0 to 1. */
  coverFirst: number
  coverLast: number
  /** Outputs are source pixels, one to one, beginning with this one; −1 when they have to be worked out. */
  direct: number
}

const ONE = 16_384

/** Cubic convolution with a = −½ (Keys, IEEE Trans. ASSP 29, 1981). */
function cubic(x: number): number {
  const t = Math.abs(x)
  if (t >= 2) return 0
  return t < 1 ? (1.5 * t - 2.5) * t * t + 1 : ((-0.5 * t + 2.5) * t - 4) * t + 2
}

/**
 * The table that draws `source` pixels with output = `scale` × source + `offset` onto an axis of `size` outputs. When
 * shrinking the kernel widens with the step, so that every source pixel counts and nothing shimmers.
 * @returns `null` when the picture lies wholly outside
 */
export function resampleTable(source: number, scale: number, offset: number, size: number): ResampleTable | null {
  const ends = [offset, offset + scale * source].sort((a, b) => a - b) as [number, number]
  // Edges a thousandth of a pixel off the grid are on it: rounding of a matrix must not leave a faint line.
  const snap = (value: number) => (Math.abs(value - Math.round(value)) < 1 / 1024 ? Math.round(value) : value)
  const [low, high] = [snap(ends[0]), snap(ends[1])]
  const from = Math.max(Math.floor(low), 0)
  const to = Math.min(Math.ceil(high), size)
  if (to <= from) return null
  const cover = (index: number) => Math.min(high, index + 1) - Math.max(low, index)
  const stretch = Math.max(1, 1 / Math.abs(scale))
  const reach = 2 * stretch
  // Where the widest span has one more, its ends weigh nothing. Even, because taps are multiplied in pairs.
  const taps = Math.min((Math.ceil(reach * 2) + 1) & ~1, (source + 1) & ~1)
  const starts = new Int32Array(to - from)
  const weights = new Int16Array((to - from) * taps)
  const raw = new Float64Array(taps)
  let direct = true
  /**
   * At its own size all outputs whose taps lie within the picture have the same weights: where the first of them
   * are.
   */
  let alike = -1
  for (let i = from; i < to; i++) {
    const centre = (i + 0.5 - offset) / scale - 0.5
    const at = (i - from) * taps
    const inside = Math.ceil(centre - reach) >= 0 && Math.floor(centre + reach) < source
    const start = firstTap(centre, reach, source, taps)
    starts[i - from] = start
    if (scale === 1 && inside) {
      if (alike >= 0) {
        weights.copyWithin(at, alike, alike + taps)
        continue
      }
      alike = at
    }
    weigh(centre, stretch, source, start, raw, weights, at)
    const own = i - low - start
    if (!(own >= 0 && own < taps) || weights[at + own] !== ONE) direct = false
  }
  const first = direct && Number.isInteger(low) ? from - low : -1
  return { from, to, taps, starts, weights, coverFirst: cover(from), coverLast: cover(to - 1), direct: first }
}

/** First of the taps of an output that lies at `centre` among `source` pixels. */
function firstTap(centre: number, reach: number, source: number, taps: number): number {
  return Math.min(Math.max(Math.ceil(centre - reach), 0), Math.max(source - taps, 0))
}

/**
 * Writes the weights of an output to `weights` from `at` on.
 * @param raw room for as many numbers as there are taps
 */
function weigh(
  centre: number,
  stretch: number,
  source: number,
  start: number,
  raw: Float64Array,
  weights: Int16Array,
  at: number,
): void {
  const reach = 2 * stretch
  const taps = raw.length
  raw.fill(0)
  let sum = 0
  // Beyond an edge the edge pixel stands in: its weight gathers what falls outside.
  for (let k = Math.ceil(centre - reach); k <= Math.floor(centre + reach); k++) {
    const weight = cubic((k - centre) / stretch)
    const index = Math.min(Math.max(k, 0), source - 1) - start
    if (index < 0 || index >= taps) continue
    raw[index]! += weight
    sum += weight
  }
  // Rounded so that the parts sum to one exactly; the largest takes what rounding left over.
  let left = ONE
  let largest = 0
  for (let k = 0; k < taps; k++) {
    const weight = Math.round((raw[k]! / sum) * ONE)
    weights[at + k] = weight
    left -= weight
    if (raw[k]! > raw[largest]!) largest = k
  }
  weights[at + largest]! += left
}

/** Along one axis of a plane: which samples make each output, and in what parts. */
export interface PlaneTable extends Pick<ResampleTable, 'taps' | 'starts' | 'weights'> {
  /**
   * Weights as they are multiplied: for each four outputs and each four of their taps the first two of each output,
   * then its other two.
   */
  lanes: Int16Array
  /** For each of {@link lanes}: which of the sixteen samples from {@link bases} on it is for. */
  places: Uint8Array
  /** Like {@link starts}; for the first of each four outputs, where the sixteen samples begin that they are made of. */
  bases: Int32Array
}

/** Samples that are looked up at once, and outputs that are made of them. */
const SIXTEEN = 16
const AT_ONCE = 4

/** Scale below which four outputs need more than sixteen samples. */
export const LEAST_PLANE_SCALE = 0.5

/**
 * The table of a plane of a film for a stretch of an axis that {@link resampleTable} sizes.
 * @param samples of the plane along the axis
 * @param count outputs
 * @param centre where output n lies, in samples
 * @param scale outputs a sample, of whichever sign; at least {@link LEAST_PLANE_SCALE}
 */
export function planeTable(samples: number, count: number, centre: (n: number) => number, scale: number): PlaneTable {
  const stretch = Math.max(1, 1 / Math.abs(scale))
  const taps = Math.ceil(stretch) * 4
  // The last few outputs stand for ones that are not there.
  const whole = Math.ceil(count / AT_ONCE) * AT_ONCE
  const starts = new Int32Array(whole)
  const weights = new Int16Array(whole * taps)
  const raw = new Float64Array(taps)
  for (let n = 0; n < whole; n++) {
    const at = centre(Math.min(n, count - 1))
    starts[n] = firstTap(at, 2 * stretch, samples, taps)
    weigh(at, stretch, samples, starts[n]!, raw, weights, n * taps)
  }
  const bases = new Int32Array(whole)
  const lanes = new Int16Array(whole * taps)
  const places = new Uint8Array(whole * taps)
  for (let n = 0, at = 0; n < whole; n += AT_ONCE) {
    const base = (bases[n] = Math.min(...starts.subarray(n, n + AT_ONCE)))
    for (let t = 0; t < taps; t += 2)
      for (let own = n; own < n + AT_ONCE; own++)
        for (let k = t; k < t + 2; k++, at++) {
          lanes[at] = weights[own * taps + k]!
          // What lies beyond the sixteen weighs nothing.
          places[at] = Math.min(starts[own]! - base + k, SIXTEEN - 1)
        }
  }
  return { taps, starts, weights, lanes, places, bases }
}
