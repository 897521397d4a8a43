/** The bytes behind what a decoder is told, whichever way they are held; none where nothing is said. */
export function bytesOf(source: AllowSharedBufferSource | undefined): Uint8Array {
  if (!source) return new Uint8Array()
  return ArrayBuffer.isView(source)
    ? new Uint8Array(source.buffer, source.byteOffset, source.byteLength)
    : new Uint8Array(source)
}
