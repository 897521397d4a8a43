/**
 * The size of a small picture of a reel: even numbers of pixels, in its shape.
 * @param longest pixels of its longer side
 */
export function smallSize(
  format: { width: number; height: number },
  longest: number,
): { width: number; height: number; scale: number } {
  const scale = longest / Math.max(format.width, format.height)
  const even = (value: number) => Math.max(2, Math.round((value * scale) / 2) * 2)
  return { width: even(format.width), height: even(format.height), scale }
}
