/** Most samples that a stereo WAV file holds: its sizes are 32-bit. About six hours. */
export const WAV_MOST = Math.floor((2 ** 32 - 100) / 6)

/**
 * The head of a WAV file of 24 bits at 48 kHz (RIFF: Multimedia Programming Interface and Data Specifications).
 * @param samples samples of each channel, {@link WAV_MOST} at the most
 * @param channels 1 or 2
 */
export function wavHeader(samples: number, channels = 2): Uint8Array {
  const frame = channels * 3
  const bytes = new Uint8Array(44)
  const view = new DataView(bytes.buffer)
  const text = (at: number, word: string) => bytes.set(new TextEncoder().encode(word), at)
  text(0, 'RIFF')
  view.setUint32(4, 36 + samples * frame, true)
  text(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, channels, true)
  view.setUint32(24, 48_000, true)
  view.setUint32(28, 48_000 * frame, true)
  view.setUint16(32, frame, true)
  view.setUint16(34, 24, true)
  text(36, 'data')
  view.setUint32(40, samples * frame, true)
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
