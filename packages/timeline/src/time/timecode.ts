import {
  frameToTicks,
  secondsToTicks,
  snapToFrame,
  snapToSample,
  TICKS_PER_SECOND,
  ticksToFrame,
  type Rate,
} from './ticks'

/** Whether `rate` counts in drop-frame (29.97 and 59.94), by SMPTE ST 12-1. */
export function isDropFrame(rate: Rate): boolean {
  return rate.den === 1001 && (rate.num === 30000 || rate.num === 60000)
}

/**
 * `h:mm:ss:ff` of a position in ticks. Drop-frame rates skip the first two (four at 59.94) frame numbers of every
 * minute but each tenth, by SMPTE ST 12-1, and show `;` before the frames.
 */
export function formatTimecode(ticks: number, rate: Rate): string {
  const sign = ticks < 0 ? '-' : ''
  let frame = Math.abs(ticksToFrame(ticks, rate))
  const base = Math.round(rate.num / rate.den)
  const drop = isDropFrame(rate)
  if (drop) {
    const dropped = base / 15
    const perMinute = base * 60 - dropped
    const perTen = perMinute * 10 + dropped
    const tens = Math.floor(frame / perTen)
    const rest = frame % perTen
    frame += dropped * 9 * tens
    if (rest >= base * 60) frame += dropped * (1 + Math.floor((rest - base * 60) / perMinute))
  }
  const ff = frame % base
  const total = Math.floor(frame / base)
  const two = (n: number) => String(n).padStart(2, '0')
  const h = Math.floor(total / 3600)
  return `${sign}${h}:${two(Math.floor(total / 60) % 60)}:${two(total % 60)}${drop ? ';' : ':'}${two(ff)}`
}

/**
 * A short length for labels: `0:14`, `1:02:05`. Seconds are rounded down, but never shown as zero for a length that
 * is not.
 */
export function formatShort(ticks: number): string {
  const seconds = Math.floor(ticks / TICKS_PER_SECOND + 1e-9)
  const h = Math.floor(seconds / 3600)
  const m = Math.floor(seconds / 60) % 60
  const two = (n: number) => String(n).padStart(2, '0')
  if (ticks > 0 && seconds === 0) return `${(ticks / TICKS_PER_SECOND).toFixed(1)} s`
  return h > 0 ? `${h}:${two(m)}:${two(seconds % 60)}` : `${m}:${two(seconds % 60)}`
}

/** A decimal length with its unit: `3.20 s`. */
export function formatSeconds(ticks: number): string {
  return `${(ticks / TICKS_PER_SECOND).toFixed(2)} s`
}

/** Number of the frame that the clock fields name, undoing drop-frame counting. */
function fieldsToFrame(h: number, m: number, s: number, f: number, rate: Rate): number {
  const base = Math.round(rate.num / rate.den)
  const count = ((h * 60 + m) * 60 + s) * base + f
  if (!isDropFrame(rate)) return count
  const minutes = h * 60 + m
  return count - (base / 15) * (minutes - Math.floor(minutes / 10))
}

/**
 * Reads what a person types as a position or a length: `0:00:11:21` and `11:21` (fields end in frames when there are
 * two or more colons, else minutes and seconds), `1:04`, `4.5s`, `300f`, a plain number of frames, and `+12` or `-2s`
 * counted from `from`. Fine, seconds and thousandths (`+0.006s`, `-4ms`, `0:00:11:21 + 6 ms`) are kept as they are.
 *
 * @param fine sound can lie between frames: the grid is that of samples
 * @returns ticks on the grid, or `null` when the text can't be read.
 */
export function parseTimecode(text: string, rate: Rate, from = 0, fine = false): number | null {
  const trimmed = text.trim()
  if (fine) return parseFine(trimmed, rate, from)
  const relative = /^[+-]/.exec(trimmed)
  const body = relative ? trimmed.slice(1).trim() : trimmed
  const value = parseLength(body, rate)
  if (value === null) return null
  if (!relative) return value
  return snapToFrame(from + (trimmed.startsWith('-') ? -value : value), rate)
}

function parseFine(text: string, rate: Rate, from: number): number | null {
  const match = /^(?:(.*?\d)\s*)??([+-]?)\s*(\d+(?:\.\d+)?)\s*(ms|s)$/i.exec(text)
  const place = match ? match[1] : text
  const frames = place === undefined ? null : parseTimecode(place, rate, from)
  if (!match) return frames
  if (place !== undefined && (frames === null || !match[2])) return null
  const amount = secondsToTicks(Number(match[3]) / (match[4]!.toLowerCase() === 'ms' ? 1000 : 1))
  const sign = match[2] === '-' ? -1 : 1
  // Without a sign it is a place, with one it is counted from a place.
  return snapToSample((frames ?? (match[2] ? from : 0)) + sign * amount)
}

/** A place as {@link formatTimecode} writes it, with the thousandths of a second that it lies behind its frame. */
export function formatFine(ticks: number, rate: Rate): string {
  const begin = frameToTicks(ticksToFrame(ticks, rate), rate)
  const behind = Math.round(((ticks - begin) / TICKS_PER_SECOND) * 10_000) / 10
  return behind < 0.1 ? formatTimecode(begin, rate) : `${formatTimecode(begin, rate)} + ${behind} ms`
}

function parseLength(body: string, rate: Rate): number | null {
  let match = /^(\d+(?:\.\d+)?)\s*s$/i.exec(body)
  if (match) return snapToFrame(secondsToTicks(Number(match[1])), rate)
  match = /^(\d+)\s*f?$/i.exec(body)
  if (match) return frameToTicks(Number(match[1]), rate)
  match = /^(?:(\d+):)?(\d+):(\d+)[:;](\d+)$/.exec(body)
  if (match) {
    const [h, m, s, f] = [Number(match[1] ?? 0), Number(match[2]), Number(match[3]), Number(match[4])]
    return frameToTicks(fieldsToFrame(h, m, s, f, rate), rate)
  }
  match = /^(\d+):(\d+)$/.exec(body)
  if (match) return snapToFrame(secondsToTicks(Number(match[1]) * 60 + Number(match[2])), rate)
  return null
}
