import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll } from 'vitest'
import type { SourceMetadata } from '@dusk/timeline'
import { examine, FrameReader, i420Size } from '../src/index'

/** A folder that lasts as long as the test file. */
export function folder(): string {
  const path = mkdtempSync(join(tmpdir(), 'dusk-media-'))
  afterAll(() => rmSync(path, { recursive: true, force: true }))
  return path
}

/** Runs ffmpeg with words split at spaces; words in `more` are taken whole. */
export function ffmpeg(args: string, ...more: string[]): void {
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...args.split(' ').filter(Boolean), ...more])
}

/** Picture whose luma says which frame it is: frame n is 16 + 3n, modulo 200. */
export const COUNTING = "nullsrc=s=64x36:r=25,geq=lum='16+mod(N*3,200)':cb=128:cr=128"

export async function look(path: string): Promise<SourceMetadata> {
  return examine(path, statSync(path).size)
}

/** Luma in the middle of frame `frame`, read by seeking straight to it, and of the frame after it. */
export async function lumaAt(path: string, source: SourceMetadata, frame: number): Promise<[number, number | null]> {
  const [width, height] = [source.width!, source.height!]
  const reader = new FrameReader(path, source, frame)
  const planes = new Uint8Array(i420Size(width, height))
  const middle = Math.floor(height / 2) * width + Math.floor(width / 2)
  if (!(await reader.readInto(planes))) throw new Error(`no frame ${frame}`)
  const first = planes[middle]!
  const second = (await reader.readInto(planes)) ? planes[middle]! : null
  await reader.close()
  return [first, second]
}
