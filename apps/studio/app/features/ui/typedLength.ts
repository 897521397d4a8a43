import { parseTimecode, type Rate } from '@dusk/timeline'

/**
 * Reads a length that was typed where one is shown in seconds, such as `1.00 s`: a bare number means seconds, anything
 * else is read as a time, `12f` or `+6f` for frames.
 * @param from the length it was, in ticks: what `+` and `−` start from
 * @returns ticks, or `null` when it can't be read
 */
export function typedLength(text: string, rate: Rate, from: number, fine = false): number | null {
  const plain = text.trim().replace(/\s+s$/, 's').replace(',', '.')
  return parseTimecode(/^\d*\.?\d+$/.test(plain) ? `${plain}s` : plain, rate, from, fine)
}
