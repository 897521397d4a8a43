/**
 * The canonical sound of a source: 48 kHz, 32-bit float, little-endian, channels interleaved, behind a 32-byte header.
 * Sample 0 is the source's time zero; any byte range of it can be read on its own.
 *
 * Header: `DUSKPCM1`, then u32 channels, u32 sample rate, f64 number of samples per channel, 8 bytes zero.
 */
export const SOUND_HEADER_BYTES = 32
const MAGIC = 'DUSKPCM1'

export interface SoundHeader {
  channels: number
  sampleRate: number
  /** Samples of each channel. */
  samples: number
}

export function writeSoundHeader(header: SoundHeader): Uint8Array {
  const bytes = new Uint8Array(SOUND_HEADER_BYTES)
  bytes.set(new TextEncoder().encode(MAGIC))
  const view = new DataView(bytes.buffer)
  view.setUint32(8, header.channels, true)
  view.setUint32(12, header.sampleRate, true)
  view.setFloat64(16, header.samples, true)
  return bytes
}

/** @throws {Error} when the bytes are not such a header */
export function readSoundHeader(bytes: Uint8Array): SoundHeader {
  if (bytes.length < SOUND_HEADER_BYTES || new TextDecoder().decode(bytes.subarray(0, 8)) !== MAGIC)
    throw new Error('This is not a canonical sound file.')
  const view = new DataView(bytes.buffer, bytes.byteOffset)
  return { channels: view.getUint32(8, true), sampleRate: view.getUint32(12, true), samples: view.getFloat64(16, true) }
}

/** Byte range of `count` samples from sample `from`, end exclusive. */
export function soundByteRange(channels: number, from: number, count: number): { start: number; end: number } {
  const frame = channels * 4
  return { start: SOUND_HEADER_BYTES + from * frame, end: SOUND_HEADER_BYTES + (from + count) * frame }
}
