import { formatTimecode, reelLength, snapToFrame, ticksPerFrame, type Project } from '@dusk/timeline'
import type { RenderSettings } from './shapes'

/** Why a range can't be rendered, in words for the person. */
export class RangeRefused extends Error {}

/**
 * A range to render, put on the reel's frames, as the desk marks it.
 * @returns `null` for the whole reel
 * @throws {RangeRefused} when it ends before it begins, or lies past the end of the reel
 */
export function renderRange(project: Project, reelId: string, range: RenderSettings['range']): RenderSettings['range'] {
  if (!range) return null
  const { rate } = project.reels[reelId]!.format
  const length = reelLength(project, reelId)
  const [from, to] = [snapToFrame(range.from, rate), snapToFrame(range.to, rate)]
  if (to <= from) throw new RangeRefused('The range ends before it begins, or is shorter than a frame.')
  if (from >= length || to > length + ticksPerFrame(rate))
    throw new RangeRefused(
      `The range goes from ${formatTimecode(from, rate)} to ${formatTimecode(to, rate)}, but the reel ends at ` +
        `${formatTimecode(length, rate)}. Choose an end within it.`,
    )
  return { from, to: Math.min(to, length) }
}
