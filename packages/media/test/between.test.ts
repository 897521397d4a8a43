import { execFileSync } from 'node:child_process'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { makeBetween } from '../src/index'
import { ffmpeg, folder, look } from './helpers'

const dir = folder()
const at = (name: string) => join(dir, name)
const [WIDTH, HEIGHT] = [320, 180]

/** Where the bright bar is in each frame of a file, in pixels from the left. */
function bars(path: string): number[] {
  const args = ['-v', 'error', '-i', path, ...'-fps_mode passthrough -f rawvideo -pix_fmt gray -'.split(' ')]
  const raw = execFileSync('ffmpeg', args, { maxBuffer: 1 << 30 })
  return Array.from({ length: raw.length / (WIDTH * HEIGHT) }, (_, n) => {
    let [sum, weight] = [0, 0]
    for (let x = 0; x < WIDTH; x++) {
      const over = raw[n * WIDTH * HEIGHT + (HEIGHT / 2) * WIDTH + x]! - 60
      if (over > 0) [sum, weight] = [sum + over * x, weight + over]
    }
    return sum / weight
  })
}

describe('frames between', () => {
  it('lie where the motion has got to, and on the source’s own frames are those', async () => {
    const bar = "nullsrc=s=320x180:r=25,geq=lum='if(lt(abs(X-20-N*4),10)*lt(abs(Y-90),30),220,40)':cb=128:cr=128"
    ffmpeg('-f lavfi -i', bar, ...'-frames:v 40 -c:v libx264 -bf 2 -qp 4 -pix_fmt yuv420p'.split(' '), at('bar.mp4'))
    const metadata = await look(at('bar.mp4'))
    const told: number[] = []
    const made = await makeBetween(
      at('bar.mp4'),
      metadata,
      { first: 16, count: 16, factor: 4 },
      { video: at('made.mp4'), proxy: at('proxy.mp4') },
      { progress: (part) => told.push(part) },
    )
    expect(made).toEqual({ width: WIDTH, height: HEIGHT, frames: 64 })
    const places = bars(at('made.mp4'))
    expect(places).toHaveLength(64)
    for (const [n, place] of places.entries()) expect(Math.abs(place - (20 + 16 * 4 + n)), `${n}`).toBeLessThan(0.4)
    expect((await look(at('proxy.mp4'))).table).toEqual({ kind: 'constant', rate: { num: 25, den: 1 }, count: 64 })
    expect(told.at(-1)).toBe(1)

    // Beyond the end the last frame stands still.
    await makeBetween(
      at('bar.mp4'),
      metadata,
      { first: 32, count: 16, factor: 2 },
      { video: at('end.mp4'), proxy: at('end-proxy.mp4') },
    )
    const end = bars(at('end.mp4'))
    expect(end).toHaveLength(32)
    expect(Math.abs(end[14]! - (20 + 39 * 4))).toBeLessThan(0.5)
    expect(Math.abs(end[31]! - end[16]!)).toBeLessThan(0.5)
  })

  it('can be stopped', async () => {
    const abort = new AbortController()
    const run = makeBetween(
      at('bar.mp4'),
      await look(at('bar.mp4')),
      { first: 0, count: 32, factor: 8 },
      { video: at('no.mp4'), proxy: at('no-proxy.mp4') },
      { signal: abort.signal },
    )
    setTimeout(() => abort.abort(), 200)
    await expect(run).rejects.toThrow('abort')
  })
})
