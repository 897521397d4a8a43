/**
 * A still as preview and render read it: `DUSKRGBA`, u32 width, u32 height (little-endian), then the pixels, straight
 * alpha, four bytes each, row after row, as a zlib stream.
 */
export const STILL_HEADER_BYTES = 16
const MAGIC = 'DUSKRGBA'

export function stillHeader(width: number, height: number): Uint8Array {
  const bytes = new Uint8Array(STILL_HEADER_BYTES)
  for (let i = 0; i < MAGIC.length; i++) bytes[i] = MAGIC.charCodeAt(i)
  const view = new DataView(bytes.buffer)
  view.setUint32(8, width, true)
  view.setUint32(12, height, true)
  return bytes
}

/** @throws {Error} when the bytes are not such a header */
export function readStillHeader(bytes: Uint8Array): { width: number; height: number } {
  if (bytes.length < STILL_HEADER_BYTES || String.fromCharCode(...bytes.subarray(0, 8)) !== MAGIC)
    throw new Error('This is not a still file.')
  const view = new DataView(bytes.buffer, bytes.byteOffset)
  return { width: view.getUint32(8, true), height: view.getUint32(12, true) }
}
