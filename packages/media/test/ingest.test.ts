import { readFileSync, statSync, writeFileSync, truncateSync } from 'node:fs'
import { join } from 'node:path'
import { beforeAll, describe, expect, it } from 'vitest'
import { frameCount, frameStart, secondsToTicks } from '@dusk/timeline'
import { readSoundHeader, readWaveform, SOUND_HEADER_BYTES } from '@dusk/sound'
import { examine, hashFile, makeProxy, makeSound, makeStrip, tidyRate } from '../src/index'
import { COUNTING, ffmpeg, folder, look, lumaAt } from './helpers'

const dir = folder()
const at = (name: string) => join(dir, name)

describe('finding a frame by its number', () => {
  const files: [string, string][] = [
    ['b-frames.mp4', '-c:v libx264 -bf 3 -g 40 -qp 4 -pix_fmt yuv420p -colorspace bt709'],
    ['short-gop.mkv', '-c:v libx264 -g 12 -qp 4 -pix_fmt yuv420p -colorspace bt709'],
    ['vp9.webm', '-c:v libvpx-vp9 -crf 10 -b:v 0 -deadline realtime -colorspace bt709'],
    ['stream.ts', '-c:v libx264 -bf 2 -g 25 -qp 4 -pix_fmt yuv420p -colorspace bt709 -f mpegts'],
    ['old.avi', '-c:v mpeg4 -bf 2 -q:v 2 -colorspace bt709'],
    ['disc.mpg', '-c:v mpeg2video -bf 2 -q:v 2 -colorspace bt709 -f mpeg'],
  ]
  for (const [name, codec] of files)
    it(`is exact in ${name}`, async () => {
      ffmpeg(`-f lavfi -i`, COUNTING, ...'-frames:v 120'.split(' '), ...codec.split(' '), at(name))
      const examined = await look(at(name))
      expect(examined.table).toEqual({ kind: 'constant', rate: { num: 25, den: 1 }, count: 120 })
      for (const frame of [0, 1, 40, 41, 118]) {
        const [first, second] = await lumaAt(at(name), examined, frame)
        expect(Math.abs(first - (16 + ((frame * 3) % 200)))).toBeLessThan(2.5)
        expect(Math.abs(second! - (16 + (((frame + 1) * 3) % 200)))).toBeLessThan(2.5)
      }
    })

  it('follows a variable rate', async () => {
    // Every third frame dropped, and a second of nothing: times must come from the file.
    ffmpeg(
      '-f lavfi -i',
      `${COUNTING},select='mod(n,3)*not(between(n,30,54))'`,
      ...'-frames:v 40 -fps_mode passthrough -c:v libx264 -bf 2 -qp 4 -colorspace bt709'.split(' '),
      at('varying.mp4'),
    )
    const examined = await look(at('varying.mp4'))
    const { table } = examined
    expect(examined.variable).toBe(true)
    expect(frameCount(table!)).toBe(40)
    expect(frameStart(table!, 0)).toBe(0)
    // Frames 1, 2, 4, 5 … of the counter: the fourth shown is counter 5, four frames after counter 1.
    expect(frameStart(table!, 3)).toBe(secondsToTicks(4 / 25))
    const [first, second] = await lumaAt(at('varying.mp4'), examined, 19)
    expect([first, second]).toEqual([16 + 29 * 3, 16 + 55 * 3])
  })
})

describe('odd pictures', () => {
  it('stands rotated phone footage upright', async () => {
    ffmpeg('-f lavfi -i testsrc2=s=320x180:r=30 -frames:v 10 -c:v libx264 -pix_fmt yuv420p', at('flat.mp4'))
    ffmpeg(`-i ${at('flat.mp4')} -c copy -metadata:s:v rotate=90`, at('tall.mp4'))
    const examined = await look(at('tall.mp4'))
    expect(examined).toMatchObject({ width: 180, height: 320 })
    expect(examined.notes[0]).toContain('upright')
    await lumaAt(at('tall.mp4'), examined, 3)
  })

  it('makes pixels square, keeps odd sizes, and joins fields', async () => {
    ffmpeg(
      '-f lavfi -i testsrc2=s=720x576:r=25 -frames:v 10 -vf setsar=16/15 -c:v mpeg2video -flags +ildct+ilme ' +
        '-top 1 -vf setsar=16/15,setfield=tff',
      at('disc.mpg'),
    )
    const disc = await look(at('disc.mpg'))
    expect(disc).toMatchObject({ width: 768, height: 576 })
    expect(disc.filters[0]).toContain('bwdif')
    ffmpeg(
      '-f lavfi -i testsrc2=s=320x180:r=30 -frames:v 6 -vf scale=321:181,setsar=1 -c:v ffv1 -pix_fmt yuv420p',
      at('odd.mkv'),
    )
    const odd = await look(at('odd.mkv'))
    expect(odd).toMatchObject({ width: 321, height: 181 })
    const [luma] = await lumaAt(at('odd.mkv'), odd, 5)
    expect(luma).toBeGreaterThan(0)
  })

  it('brings other colour tags to one', async () => {
    ffmpeg(
      '-f lavfi -i color=c=0xff0000:s=64x64:r=25 -frames:v 3 -vf',
      'scale=out_color_matrix=bt601:out_range=full',
      ...'-c:v libx264 -qp 0 -pix_fmt yuvj420p -colorspace smpte170m -color_range pc'.split(' '),
      at('red601.mp4'),
    )
    const [luma] = await lumaAt(at('red601.mp4'), await look(at('red601.mp4')), 0)
    // Red is 63 in BT.709 limited range; as BT.601 full range it was stored as 76.
    expect(Math.abs(luma - 63)).toBeLessThanOrEqual(2)
  })

  it('tells rates that containers approximate from those they mean', () => {
    expect(tidyRate({ num: 2997, den: 100 })).toEqual({ num: 30000, den: 1001 })
    expect(tidyRate({ num: 23976, den: 1000 })).toEqual({ num: 24000, den: 1001 })
    expect(tidyRate({ num: 19_001, den: 317 })).toEqual({ num: 60000, den: 1001 })
    expect(tidyRate({ num: 1000, den: 67 })).toEqual({ num: 1000, den: 67 })
  })
})

describe('what is made from a source', () => {
  it('gives a proxy with the same frames in the same order', async () => {
    ffmpeg(
      '-f lavfi -i',
      `${COUNTING},scale=1920:1080`,
      ...'-frames:v 50 -c:v libx264 -preset ultrafast -bf 2 -qp 4 -colorspace bt709'.split(' '),
      at('wide.mp4'),
    )
    const examined = await look(at('wide.mp4'))
    const reports: number[] = []
    const made = await makeProxy(at('wide.mp4'), examined, at('proxy.mp4'), { progress: (part) => reports.push(part) })
    expect(made).toMatchObject({ width: 960, height: 540, frames: 50 })
    expect(reports.at(-1)).toBe(1)
    const proxy = await look(at('proxy.mp4'))
    expect(proxy).toMatchObject({ width: 960, height: 540 })
    for (const frame of [0, 14, 15, 49]) {
      const [luma] = await lumaAt(at('proxy.mp4'), proxy, frame)
      expect(Math.abs(luma - (16 + frame * 3))).toBeLessThanOrEqual(2)
    }
    const strip = await makeStrip(at('proxy.mp4'), examined.table!, { width: 960, height: 540 }, at('strip.jpg'))
    expect(strip.times[0]).toBe(0)
    expect(strip.times.length).toBeGreaterThan(2)
    expect(readFileSync(at('strip.jpg')).subarray(0, 2)).toEqual(Buffer.from([0xff, 0xd8]))
  })

  it('shows a film of one frame, as a damaged one may be, in its proxy and on its strip', async () => {
    ffmpeg(
      '-f lavfi -i',
      `${COUNTING},scale=640:360`,
      ...'-frames:v 1 -c:v libx264 -pix_fmt yuv420p'.split(' '),
      at('1.mp4'),
    )
    const examined = await look(at('1.mp4'))
    const made = await makeProxy(at('1.mp4'), examined, at('1-proxy.mp4'))
    expect(made.frames).toBe(1)
    const [luma] = await lumaAt(at('1-proxy.mp4'), await look(at('1-proxy.mp4')), 0)
    expect(Math.abs(luma - 16)).toBeLessThanOrEqual(2)
    const strip = await makeStrip(at('1-proxy.mp4'), examined.table!, made, at('1.jpg'))
    expect(strip.times).toEqual([0])
    expect(readFileSync(at('1.jpg')).subarray(0, 2)).toEqual(Buffer.from([0xff, 0xd8]))
  })

  it('puts sound at the picture’s zero when a stream starts late or early, and takes every stream', async () => {
    // A click 0.5 s into each stream; the second stream starts 0.3 s late, the picture 0.2 s late.
    const click = "aevalsrc='if(between(t,0.5,0.501),0.9,0)':s=48000:d=1"
    ffmpeg(
      '-f lavfi -i',
      `testsrc2=s=64x36:r=25:d=1`,
      '-f',
      'lavfi',
      '-i',
      click,
      '-itsoffset',
      '0.3',
      '-f',
      'lavfi',
      '-i',
      click,
      '-map',
      '0:v',
      '-map',
      '1:a',
      '-map',
      '2:a',
      '-c:v',
      'libx264',
      '-c:a',
      'flac',
      at('plain.mkv'),
    )
    ffmpeg(
      '-itsoffset',
      '0.2',
      '-i',
      at('plain.mkv'),
      '-i',
      at('plain.mkv'),
      '-map',
      '0:v',
      '-map',
      '1:a',
      '-c',
      'copy',
      at('late.mkv'),
    )
    const examined = await look(at('late.mkv'))
    expect(examined.sounds).toHaveLength(2)
    for (const [stream, seconds] of [
      [0, 0.3],
      [1, 0.6],
    ] as const) {
      const count = await makeSound(at('late.mkv'), examined, stream, at('sound.pcm'), at('sound.wave'))
      const bytes = readFileSync(at('sound.pcm'))
      const header = readSoundHeader(bytes)
      expect(header).toEqual({ channels: 1, sampleRate: 48_000, samples: count })
      const samples = new Float32Array(
        bytes.buffer.slice(bytes.byteOffset + SOUND_HEADER_BYTES, bytes.byteOffset + bytes.length),
      )
      const first = samples.findIndex((value) => value > 0.4)
      expect(Math.abs(first - seconds * 48_000)).toBeLessThanOrEqual(60)
      expect(readWaveform(readFileSync(at('sound.wave'))).samples).toBe(count)
    }
  })
})

describe('files that can’t be used', () => {
  beforeAll(() => ffmpeg('-f lavfi -i testsrc2=s=320x180:r=30:d=2 -c:v libx264', at('good.mp4')))
  const refusal = (name: string) =>
    examine(at(name), statSync(at(name)).size).then(
      () => 'taken in',
      (error: Error) => `${error.name}: ${error.message}`,
    )

  it('says what is wrong with each in words', async () => {
    writeFileSync(at('empty'), '')
    writeFileSync(at('letter'), 'Dear harbour master, the lanterns are ready. '.repeat(200))
    writeFileSync(
      at('list'),
      '#EXTM3U\n#EXT-X-VERSION:3\n#EXT-X-TARGETDURATION:10\n#EXTINF:10,\n/etc/passwd\n#EXT-X-ENDLIST\n',
    )
    writeFileSync(at('concat'), `ffconcat version 1.0\nfile '${at('good.mp4')}'\n`)
    writeFileSync(at('cut'), readFileSync(at('good.mp4')))
    truncateSync(at('cut'), 20_000)
    expect(await refusal('empty')).toMatch(/^BadMedia: The file is empty/)
    expect(await refusal('letter')).toMatch(/^BadMedia: This is not a video/)
    expect(await refusal('list')).toMatch(/^BadMedia: This file is a list that points to other files/)
    expect(await refusal('concat')).toMatch(/^BadMedia: This file is a list that points to other files/)
    expect(await refusal('cut')).toMatch(/^BadMedia: The end of this file is missing/)
    expect(await refusal('good.mp4')).toBe('taken in')
  })

  it('calls kinds that are not read by their names', async () => {
    const still = '-f lavfi -i testsrc2=s=64x36:d=0.04 -frames:v 1'
    for (const name of ['card.jp2', 'card.ppm', 'card.dpx']) ffmpeg(still, at(name))
    writeFileSync(at('card.psd'), `8BPS\0\x01${'\0'.repeat(40)}`)
    writeFileSync(at('letter.pdf'), '%PDF-1.7\n%')
    writeFileSync(at('box.zip'), `PK\x03\x04${'\0'.repeat(40)}`)
    for (const [name, words] of Object.entries({
      ...{ 'card.jp2': 'JPEG 2000', 'card.ppm': 'PNM', 'card.dpx': 'DPX' },
      ...{ 'card.psd': 'layered picture', 'letter.pdf': 'PDF', 'box.zip': 'ZIP archive' },
    }))
      expect(await refusal(name), name).toMatch(new RegExp(`^BadMedia: This is an? ${words}`))
  })

  it('hashes content', async () => {
    writeFileSync(at('abc'), 'abc')
    expect(await hashFile(at('abc'))).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad')
  })
})
