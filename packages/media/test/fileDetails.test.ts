import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { afterAll, describe, expect, it } from 'vitest'
import { fileDetails } from '../src/delivery/fileDetails'
import { takePicture, takeStrip } from '../src/delivery/pictures'

const dir = mkdtempSync(join(tmpdir(), 'dusk-details-'))
afterAll(() => rmSync(dir, { recursive: true, force: true }))
const make = (name: string, ...args: string[]) => {
  const path = join(dir, name)
  execFileSync('ffmpeg', ['-v', 'error', ...args, path])
  return path
}

describe('a finished file that is looked into', () => {
  // Red, then blue, three seconds each; a tone that begins loud and goes on 20 dB lower.
  const film = make(
    'film.mp4',
    ...'-f lavfi -i color=red:s=320x180:r=25:d=3 -f lavfi -i color=blue:s=320x180:r=25:d=3'.split(' '),
    ...['-f', 'lavfi', '-i', "aevalsrc='if(lt(t,8),0.5,0.05)*sin(880*PI*t)':s=48000:d=6:c=stereo"],
    ...['-filter_complex', '[0][1]concat=n=2', '-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac'],
    ...'-colorspace bt709 -color_range tv -t 6'.split(' '),
  )

  it('says its streams, its bits in each second, and how loud it is', async () => {
    const { streams, bitrate, loudness } = await fileDetails(film)
    expect(streams.map(({ kind, codec }) => `${kind} ${codec}`)).toEqual(['picture h264', 'sound aac'])
    expect(streams[0]!.words).toMatch(/^320 × 180, 25 frames\/s, .*BT\.709, limited range$/)
    expect(streams[1]!.words).toContain('48 kHz, stereo')
    expect(Math.abs(bitrate.length - 6)).toBeLessThanOrEqual(1)
    expect(Math.min(...bitrate.slice(0, 6))).toBeGreaterThan(1000)
    expect(loudness!.length).toBeGreaterThanOrEqual(6)
    // A sine at half of full scale in both channels lies at −6 LUFS or so once three seconds were heard.
    expect(Math.abs(loudness![5]! + 6)).toBeLessThan(1.5)
  })

  it('has pictures taken out of it, one and a row', async () => {
    const { data } = await sharp(await takePicture(film, 4, 90))
      .raw()
      .toBuffer({ resolveWithObject: true })
    expect([data[0]! < 60, data[2]! > 180]).toEqual([true, true])
    const strip = sharp(await takeStrip(film, 6, { count: 4, height: 90 }))
    const { width, height } = await strip.metadata()
    expect([width, height]).toEqual([640, 90])
    const seen = await strip.raw().toBuffer()
    const [left, right] = [10, 630].map((x) => [...seen.subarray((45 * 640 + x) * 3, (45 * 640 + x) * 3 + 3)])
    expect([left![0]! > 180, left![2]! < 60, right![0]! < 60, right![2]! > 180]).toEqual([true, true, true, true])
  })

  it('may be sound alone, or be broken', async () => {
    const song = make('song.wav', '-f', 'lavfi', '-i', 'sine=d=2')
    const { streams, loudness } = await fileDetails(song)
    expect(streams).toHaveLength(1)
    expect(loudness).not.toBeNull()
    await expect(fileDetails(join(dir, 'nowhere.mp4'))).rejects.toThrow()
  })
})
