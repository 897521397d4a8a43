/**
 * Stereo played at another speed, pitch moving with it, as when a tape is wound: for J K L, where the person listens
 * for a place, not for the tone. Linear between samples.
 * @param source interleaved stereo covering positions 0 … its length
 * @param start position in `source` of the first output sample
 * @param speed source samples per output sample; negative plays backwards
 */
export function varispeed(source: Float32Array, start: number, speed: number, count: number): Float32Array {
  const out = new Float32Array(count * 2)
  const last = source.length / 2 - 1
  if (last < 0) return out
  for (let i = 0; i < count; i++) {
    const position = Math.min(Math.max(start + i * speed, 0), last)
    const index = Math.min(Math.floor(position), Math.max(last - 1, 0))
    const part = position - index
    const next = Math.min(index + 1, last)
    for (let c = 0; c < 2; c++) out[i * 2 + c] = source[index * 2 + c]! * (1 - part) + source[next * 2 + c]! * part
  }
  return out
}
