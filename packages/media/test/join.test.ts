import { execFileSync } from 'node:child_process'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { ChunkEncoder, i420Size, inspectFile, joinChunks, SoundEncoder } from '../src/index'
import { folder } from './helpers'

const dir = folder()

describe('chunks joined without encoding again', () => {
  for (const [num, den] of [
    [24000, 1001],
    [25, 1],
    [30000, 1001],
    [60000, 1001],
  ] as const)
    it(`keeps every step one frame at ${num}/${den}`, async () => {
      const rate = { num, den }
      const encoding = { width: 64, height: 36, rate, codec: 'h264' as const, quality: 'good' as const }
      const lengths = [61, 97, 1, 2, 33, 80]
      const chunks = []
      let luma = 0
      for (const [i, frames] of lengths.entries()) {
        const path = join(dir, `${num}-${i}.ts`)
        const encoder = new ChunkEncoder(encoding, path)
        const planes = new Uint8Array(i420Size(64, 36)).fill(128)
        for (let n = 0; n < frames; n++) {
          planes.fill(16 + ((luma++ * 3) % 200), 0, 64 * 36)
          await encoder.write(planes)
        }
        await encoder.finish()
        chunks.push({ path, frames })
      }
      const total = lengths.reduce((a, b) => a + b, 0)
      const sound = join(dir, `${num}.m4a`)
      const encoder = new SoundEncoder(sound, 'aac', 'draft')
      const seconds = (total / num) * den
      await encoder.write(new Float32Array(Math.round(seconds * 48_000) * 2))
      await encoder.finish()
      const out = join(dir, `${num}.mp4`)
      await joinChunks({ chunks, rate, sound, out, ending: 'mp4', scratch: join(dir, 'list.txt') })

      const report = await inspectFile(out)
      expect(report.picture).toMatchObject({ frames: total, rate: `${num}/${den}`, start: 0 })
      expect(Math.abs(report.sound!.seconds - seconds)).toBeLessThan(1024 / 48_000)
      const text = execFileSync('ffprobe', [
        '-v',
        'error',
        '-select_streams',
        'v',
        '-show_entries',
        'frame=pts',
        '-of',
        'csv=p=0',
        out,
      ]).toString()
      const pts = text
        .split(/[\n,]+/)
        .filter(Boolean)
        .map(Number)
      const timescale = num >= 10_000 ? num : num * 1000
      expect(pts).toEqual(Array.from({ length: total }, (_, i) => (i * den * timescale) / num))
      const gray = execFileSync(
        'ffmpeg',
        [
          '-v',
          'error',
          '-i',
          out,
          '-vf',
          'scale=1:1',
          '-f',
          'rawvideo',
          '-pix_fmt',
          'yuv420p',
          '-fps_mode',
          'passthrough',
          'pipe:1',
        ],
        { maxBuffer: 1e8 },
      )
      const size = i420Size(1, 1)
      for (let n = 0; n < total; n++) expect(Math.abs(gray[n * size]! - (16 + ((n * 3) % 200)))).toBeLessThanOrEqual(3)
    })
})
