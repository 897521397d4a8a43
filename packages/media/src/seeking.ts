import { frameCount, type SourceMetadata } from '@dusk/timeline'
import { words } from './arguments'
import { frameReaderInput } from './frameReader'
import { readHashes } from './proxy'
import { inputArgs, runTool, ToolError } from './tool'

/** Places at which seeking is tried. */
const PLACES = 10

/** Numbers of frames to try seeking at: the second, the last, and some between, not at even steps. */
export function seekSamples(metadata: SourceMetadata): number[] {
  const count = frameCount(metadata.table!)
  const places = [1, count - 1]
  for (let i = 1; i < PLACES; i++) places.push(Math.floor((count * i) / PLACES) + ((i * 7) % 3))
  return [...new Set(places)].filter((n) => n > 0 && n < count).sort((a, b) => a - b)
}

/**
 * Whether decoding that begins at a frame gives that frame, as decoding from the start did. Where it does not, frames
 * have to be found by counting.
 * @param hashes hash of the decoded frame by its number, from a run over the whole source
 */
export async function seeksExactly(
  path: string,
  metadata: SourceMetadata,
  hashes: ReadonlyMap<number, string>,
  signal?: AbortSignal,
): Promise<boolean> {
  for (const [frame, wanted] of hashes) {
    const { before, filters } = frameReaderInput(metadata, frame)
    const args = [
      ...words('-v error -nostdin', before, inputArgs(path), '-map', [`0:${metadata.videoIndex}`]),
      ...words('-an -sn -dn', filters.length > 0 ? ['-vf', filters.join(',')] : []),
      ...words('-fps_mode passthrough -frames:v 1 -f framehash -hash adler32 pipe:1'),
    ]
    try {
      const found = readHashes((await runTool('ffmpeg', args, { signal, timeout: 120_000 })).toString('latin1'))
      if (found[0] !== wanted) return false
    } catch (error) {
      if (error instanceof ToolError) return false
      throw error
    }
  }
  return true
}
