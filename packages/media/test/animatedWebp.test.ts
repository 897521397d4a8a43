import { execFileSync } from 'node:child_process'
import { copyFileSync, readFileSync, statSync, truncateSync } from 'node:fs'
import { join } from 'node:path'
import { beforeAll, describe, expect, it } from 'vitest'
import { frameCount, frameStart, TICKS_PER_SECOND } from '@dusk/timeline'
import sharp from 'sharp'
import { convertAnimatedWebp, evenly, examine, hashFile, isAnimatedWebp } from '../src/index'
import { folder, lumaAt } from './helpers'

const dir = folder()
const at = (name: string) => join(dir, name)

beforeAll(async () => {
  // Each picture a grey of its own, shown for as long as it says.
  const pages = await Promise.all(
    [40, 80, 120, 160].map((grey) =>
      sharp({ create: { width: 64, height: 36, channels: 4, background: { r: grey, g: grey, b: grey, alpha: 1 } } })
        .png()
        .toBuffer(),
    ),
  )
  const image = sharp(pages, { join: { animated: true } })
  await image.webp({ lossless: true, loop: 0, delay: [100, 300, 50, 100] }).toFile(at('lanterns.webp'))
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc=s=64x36', '-frames:v', '1', at('one.webp')])
})

describe('an animated WebP', () => {
  it('is told from one of a single picture, and from anything else', async () => {
    expect(await isAnimatedWebp(at('lanterns.webp'))).toBe(true)
    expect(await isAnimatedWebp(at('one.webp'))).toBe(false)
    expect(await isAnimatedWebp(import.meta.filename)).toBe(false)
  })

  it('becomes footage without loss: each picture for its time, the same file each time', async () => {
    await convertAnimatedWebp(at('lanterns.webp'), at('a.mkv'))
    await convertAnimatedWebp(at('lanterns.webp'), at('b.mkv'))
    expect(await hashFile(at('a.mkv'))).toBe(await hashFile(at('b.mkv')))
    const metadata = await examine(at('a.mkv'), statSync(at('a.mkv')).size)
    expect(metadata).toMatchObject({ kind: 'video', width: 64, height: 36 })
    expect(metadata.length / TICKS_PER_SECOND).toBeCloseTo(0.55, 3)
    const shown: number[] = []
    for (let frame = 0; frame < frameCount(metadata.table!); frame++) {
      const [luma] = await lumaAt(at('a.mkv'), metadata, frame)
      // Limited range: 16 and 219 of 255 parts.
      const grey = Math.round(((luma - 16) * 255) / 219 / 40) * 40
      const begins = Math.round((1000 * frameStart(metadata.table!, frame)) / TICKS_PER_SECOND)
      if (shown.at(-1) !== grey) shown.push(begins, grey)
    }
    expect(shown).toEqual([0, 40, 100, 80, 400, 120, 450, 160])
  })

  it('is refused in words when it is damaged', async () => {
    copyFileSync(at('lanterns.webp'), at('half.webp'))
    truncateSync(at('half.webp'), Math.floor(readFileSync(at('half.webp')).length * 0.6))
    await expect(convertAnimatedWebp(at('half.webp'), at('half.mkv'))).rejects.toThrow('can’t be decoded')
  })

  it('goes at the rate at which all of its pictures last whole frames', () => {
    expect(evenly([40, 40, 40])).toEqual({ rate: '1000/40', repeats: [1, 1, 1] })
    expect(evenly([33, 33])).toEqual({ rate: '1000/33', repeats: [1, 1] })
    expect(evenly([100, 300, 50])).toEqual({ rate: '1000/50', repeats: [2, 6, 1] })
    // Browsers give a tenth of a second to pictures that name no time.
    expect(evenly([0, 0])).toEqual({ rate: '1000/100', repeats: [1, 1] })
  })
})
