/** Bytes of a 4:2:0 frame: luma, then the two chroma planes at half size rounded up. */
export function i420Size(width: number, height: number): number {
  return width * height + 2 * ((width + 1) >> 1) * ((height + 1) >> 1)
}
