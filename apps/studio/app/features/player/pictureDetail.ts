/** Pixels on the long side that previews have, and that the viewer is drawn with: its proxies have no more. */
export const LONGEST = 960
/** Most pixels on the long side that a picture which stands is drawn with, and milliseconds that it stands before. */
const SHARPEST = 4096
const STANDS_MS = 200

interface Size {
  width: number
  height: number
}

/** Size in pixels that the viewer's picture of a reel is drawn at; the page scales it for nothing. */
export function drawnSize(shape: Size): Size {
  const scale = Math.min(1, LONGEST / Math.max(shape.width, shape.height))
  const even = (value: number) => Math.max(16, Math.round((value * scale) / 2) * 2)
  return { width: even(shape.width), height: even(shape.height) }
}

/**
 * Size at which a picture is drawn for being looked at closely; `null` where previews have as many pixels.
 * @param scale screen pixels per reel pixel; 0 when it only has to fit its room
 */
export function detailSize(shape: Size, scale: number): Size | null {
  const longest = Math.max(shape.width, shape.height)
  const held = Math.min(scale, SHARPEST / longest)
  const even = (value: number) => Math.round((value * held) / 2) * 2
  return held * longest > LONGEST * 1.05 ? { width: even(shape.width), height: even(shape.height) } : null
}

/** Has a picture that stands drawn again from originals, at the size it is looked at in. */
export class PictureDetail {
  private size: Size | null = null
  private timer: ReturnType<typeof setTimeout> | undefined

  /** @param sharpen draws a place so */
  constructor(private readonly sharpen: (tick: number, size: Size) => void) {}

  /** See {@link detailSize}. */
  set(shape: Size, scale: number): void {
    this.size = detailSize(shape, scale)
  }

  /** A place was drawn as previews have it. */
  drawn(tick: number): void {
    this.rest()
    const { size } = this
    if (size) this.timer = setTimeout(() => this.sharpen(tick, size), STANDS_MS)
  }

  /** Another place is asked for, or none any more. */
  rest(): void {
    clearTimeout(this.timer)
  }
}
