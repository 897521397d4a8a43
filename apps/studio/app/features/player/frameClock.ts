import { frameAt, frameStart, PROXY_RATE, TICKS_PER_SECOND, type FrameTable } from '@dusk/timeline'
import { ALL_FORMATS, Input, UrlSource } from 'mediabunny'

/** How a file's frames are found: the time of frame n in seconds, and the number of the frame at a time. */
export interface FrameClock {
  time(frame: number): number
  frame(time: number): number
}

/** Frame n of a proxy is at n / 25 s. */
export const PROXY_CLOCK: FrameClock = {
  time: (frame) => (frame + 0.25) / PROXY_RATE,
  frame: (time) => Math.round(time * PROXY_RATE),
}

/** Times in containers are rounded, down to a thousandth of a second. */
const ROUNDING = 0.002

/** The clock of an original, by its own time stamps. */
export async function originalClock(url: string, table: FrameTable): Promise<FrameClock> {
  const input = new Input({ source: new UrlSource(url), formats: ALL_FORMATS })
  const track = await input.getPrimaryVideoTrack()
  const zero = (await track?.getFirstTimestamp()) ?? 0
  input.dispose()
  return {
    time: (frame) => zero + frameStart(table, frame) / TICKS_PER_SECOND + ROUNDING,
    frame: (time) => frameAt(table, Math.round((time - zero + ROUNDING) * TICKS_PER_SECOND)),
  }
}

/** Whether this browser decodes the pictures of a file. */
export async function decodesHere(url: string): Promise<boolean> {
  const input = new Input({ source: new UrlSource(url), formats: ALL_FORMATS })
  try {
    return (await (await input.getPrimaryVideoTrack())?.canDecode()) ?? false
  } catch {
    return false
  } finally {
    input.dispose()
  }
}
