/** Most samples that a WAV file holds: its sizes are 32-bit. About six hours. */
export const WAV_MOST = Math.floor((2 ** 32 - 100) / 6)

/**
 * The head of a WAV file of 24-bit stereo at 48 kHz (RIFF: Multimedia Programming Interface and Data Specifications).
 * @param samples samples of each side, {@link WAV_MOST} at the most
 */
export function wavHeader(samples: number): Uint8Array {
  const bytes = new Uint8Array(44)
  const view = new DataView(bytes.buffer)
  const text = (at: number, word: string) => bytes.set(new TextEncoder().encode(word), at)
  text(0, 'RIFF')
  view.setUint32(4, 36 + samples * 6, true)
  text(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, 2, true)
  view.setUint32(24, 48_000, true)
  view.setUint32(28, 48_000 * 6, true)
  view.setUint16(32, 6, true)
  view.setUint16(34, 24, true)
  text(36, 'data')
  view.setUint32(40, samples * 6, true)
  return bytes
}

/** Interleaved samples as 24-bit numbers; what is beyond full scale is held there. */
export function wavSamples(block: Float32Array): Uint8Array {
  const bytes = new Uint8Array(block.length * 3)
  for (let i = 0, o = 0; i < block.length; i++, o += 3) {
    const value = Math.round(Math.min(1, Math.max(-1, block[i]!)) * 8_388_607)
    bytes[o] = value & 0xff
    bytes[o + 1] = (value >> 8) & 0xff
    bytes[o + 2] = (value >> 16) & 0xff
  }
  return bytes
}
