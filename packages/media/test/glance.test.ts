import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { afterAll, describe, expect, it } from 'vitest'
import { frameCount, frameStart, TICKS_PER_SECOND } from '@dusk/timeline'
import { BadMedia, examine, makeGlance, smallFrames } from '../src/index'
import { keyframesAtOnce, keyframesSought } from '../src/glance'

const dir = mkdtempSync(join(tmpdir(), 'dusk-glance-'))
afterAll(() => rmSync(dir, { recursive: true, force: true }))

/** Grey that rises by four a frame, upright or turned by the phone that took it; a keyframe every ten. */
async function footage(name: string, seconds: number, rate: string, turn = 0) {
  const path = join(dir, name)
  const filter = `nullsrc=s=64x36:r=${rate}:d=${seconds},geq=lum='20+mod(N*4,200)':cb=128:cr=128,scale=1920:1080`
  const coded = `-c:v libx264 -preset ultrafast -qp 10 -g 10 -bf 2 -pix_fmt yuv420p`.split(' ')
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', filter, ...coded, `${path}.flat.mp4`])
  const turned = ['-metadata:s:v', `rotate=${turn}`]
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-i', `${path}.flat.mp4`, '-c', 'copy', ...turned, path])
  return { path, metadata: await examine(path, statSync(path).size) }
}
/** Luma that frame `n` was drawn with. */
const drawn = (n: number) => 20 + ((n * 4) % 200)

describe('keyframes that are decoded at once', () => {
  const B_FRAMES = '-c:v libx264 -preset ultrafast -g 12 -bf 2 -pix_fmt yuv420p'
  const FILMS: Record<string, string> = {
    'closed.mp4': B_FRAMES,
    'open.mp4': `${B_FRAMES} -x264-params open-gop=1:bframes=2`,
    'turned.mov': `${B_FRAMES} -metadata:s:v rotate=270`,
    'full.mp4': '-vf scale=out_range=full -c:v libx264 -preset ultrafast -g 12 -pix_fmt yuvj420p -color_range pc',
    'long.mp4': '-c:v libx265 -preset ultrafast -x265-params log-level=error:keyint=12 -pix_fmt yuv420p10le',
    'vp9.mp4': '-c:v libvpx-vp9 -deadline realtime -cpu-used 8 -g 12 -b:v 200k -pix_fmt yuv420p',
  }
  /** The rest is tried by `./dusk test --long`. */
  const QUICK = ['open.mp4', 'turned.mov', 'long.mp4']
  const tried = Object.entries(FILMS).filter(([name]) => process.env.DUSK_LONG || QUICK.includes(name))

  it.each(tried)('are those that are sought one by one: %s', async (name, coded) => {
    const path = join(dir, `keys-${name}`)
    const made = ['-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=30000/1001:d=3']
    execFileSync('ffmpeg', ['-v', 'error', '-y', ...made, ...coded.split(' '), path])
    const metadata = await examine(path, statSync(path).size)
    const times = Array.from({ length: 7 }, (_, i) => frameStart(metadata.table!, i * 12 + (i % 3)))
    const sought = await keyframesSought(path, metadata, times, 128)
    const once = await keyframesAtOnce(path, metadata, times, 128)
    expect(new Set(sought.map((tile) => tile!.toString('base64'))).size).toBeGreaterThan(5)
    expect(once!.map((tile) => tile.toString('base64'))).toEqual(sought.map((tile) => tile!.toString('base64')))
  })

  it('are left to be sought where fields are woven, or there is no index', async () => {
    const { path, metadata } = await footage('fields.mp4', 1, '25')
    const woven = { ...metadata, filters: ['bwdif=mode=send_frame'] }
    expect(await keyframesAtOnce(path, woven, [0], 128)).toBeNull()
    const raw = join(dir, 'raw.avi')
    execFileSync('ffmpeg', ['-v', 'error', '-y', '-i', path, '-c', 'copy', raw])
    expect(await keyframesAtOnce(raw, metadata, [0], 128)).toBeNull()
  })
})

describe('the first look at a source', () => {
  it('is a strip of the keyframes before even steps over the whole length', async () => {
    const { path, metadata } = await footage('long.mp4', 4, '30000/1001')
    const { bytes, strip } = await makeGlance(path, metadata, 6)
    expect(strip).toMatchObject({ tileWidth: 128, tileHeight: 72, columns: 6 })
    expect(strip.times).toHaveLength(6)
    const { data, info } = await sharp(bytes).greyscale().raw().toBuffer({ resolveWithObject: true })
    const table = metadata.table!
    strip.times.forEach((time, tile) => {
      const frame = Array.from({ length: frameCount(table) }, (_, n) => n).find((n) => frameStart(table, n) === time)!
      // From limited range to full.
      const wanted = ((drawn(frame - (frame % 10)) - 16) * 255) / 219
      expect(Math.abs(data[info.width * 36 + tile * 128 + 64]! - wanted), `tile ${tile}, frame ${frame}`).toBeLessThan(
        4,
      )
    })
    expect(strip.times[0]).toBe(0)
    expect(strip.times.at(-1)!).toBeGreaterThan(3 * TICKS_PER_SECOND)
  })

  it('has one picture where one is asked for, and stands as the source stands', async () => {
    const { path, metadata } = await footage('turned.mp4', 1, '25', 90)
    const { bytes, strip } = await makeGlance(path, metadata, 1)
    expect(strip).toEqual({ tileWidth: 40, tileHeight: 72, columns: 1, times: [0] })
    expect(await sharp(bytes).metadata()).toMatchObject({ width: 40, height: 72 })
  })

  it('is refused in words where no picture can be decoded', async () => {
    const { metadata } = await footage('good.mp4', 1, '25')
    const broken = join(dir, 'broken.mp4')
    writeFileSync(broken, Buffer.alloc(5000, 7))
    await expect(makeGlance(broken, metadata, 3)).rejects.toThrow(BadMedia)
  })
})

describe('frames of originals at the size of a proxy', () => {
  it.each(['30000/1001', '25'])('come from the one that is asked for on, at %s a second', async (rate) => {
    const { path, metadata } = await footage(`frames-${rate.length}.mp4`, 1, rate)
    for (const first of [0, 1, 13]) {
      const { width, height, bytes, reader } = smallFrames(path, metadata, first)
      expect([width, height, bytes]).toEqual([960, 540, 777_600])
      const frame = Buffer.alloc(bytes)
      for (let n = first; n < first + 3; n++) {
        expect(await reader.readInto(frame)).toBe(true)
        expect(Math.abs(frame[960 * 270 + 480]! - drawn(n)), `frame ${n}`).toBeLessThan(3)
      }
      await reader.close()
    }
  })
})
