import type { PictureEncoding } from '@dusk/media'

/** How a reel lies in a file of another shape. */
export type OutputFit = 'fit' | 'fill'

/**
 * The size that a reel is drawn at for a file of some size, and how it lies in that: whole with bars beside it, or
 * filling it with its middle. Shapes that differ by less than two pixels are taken as the same.
 */
export function outputShape(
  reel: { width: number; height: number; background: string },
  file: { width: number; height: number },
  fit: OutputFit = 'fit',
): Pick<PictureEncoding, 'width' | 'height' | 'frame'> {
  const [across, down] = [file.width / reel.width, file.height / reel.height]
  const scale = fit === 'fit' ? Math.min(across, down) : Math.max(across, down)
  const even = (value: number) => Math.max(2, Math.round((value * scale) / 2) * 2)
  const [width, height] = [even(reel.width), even(reel.height)]
  if (Math.abs(width - file.width) <= 2 && Math.abs(height - file.height) <= 2)
    return { width: file.width, height: file.height }
  const frame = { width: file.width, height: file.height, background: reel.background }
  return { width, height, frame }
}

/** Pixels with straight alpha from premultiplied ones, rounded to the nearest. */
export function straightAlpha(pixels: Uint8Array, out: Uint8Array): void {
  for (let i = 0; i < pixels.length; i += 4) {
    const alpha = pixels[i + 3]!
    if (alpha === 255 || alpha === 0) {
      out[i] = pixels[i]!
      out[i + 1] = pixels[i + 1]!
      out[i + 2] = pixels[i + 2]!
    } else
      for (let k = 0; k < 3; k++) out[i + k] = Math.min(255, Math.floor((pixels[i + k]! * 255 + alpha / 2) / alpha))
    out[i + 3] = alpha
  }
}
