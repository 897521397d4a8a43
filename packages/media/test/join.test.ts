import { execFileSync } from 'node:child_process'
import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { ChunkEncoder, i420Size, inspectFile, joinChunks, SoundEncoder } from '../src/index'
import { folder } from './helpers'

const dir = folder()
/** A second in ticks. */
const S = 705_600_000

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

/** Texts with signs that one or another form of words about a file has for itself. */
const SIGNS = [
  'ends in \\',
  'a=b;c#d',
  '=',
  ';#',
  'two\nlines',
  'a\\nb',
  'ends in two \\\\',
  '[CHAPTER]',
  ' “Ufer” – 岸 🏮',
]

describe('words of a finished file', () => {
  for (const ending of ['mp4', 'mov', 'mkv', 'webm'] as const)
    it(`are in ${ending} as they were written, whatever signs they hold`, async () => {
      const rate = { num: 25, den: 1 }
      const codec = ending === 'webm' ? ('vp9' as const) : ('h264' as const)
      const path = join(dir, `${ending}.${ending === 'webm' ? 'mkv' : 'ts'}`)
      const encoder = new ChunkEncoder({ width: 64, height: 36, rate, codec, quality: 'draft' }, path)
      const frames = SIGNS.length * 10
      for (let n = 0; n < frames; n++) await encoder.write(new Uint8Array(i420Size(64, 36)).fill(100))
      await encoder.finish()
      for (const text of SIGNS) {
        const out = join(dir, `words.${ending}`)
        const chapters = SIGNS.map((name, i) => ({ from: (i * 2 * S) / 5, to: ((i + 1) * 2 * S) / 5, name }))
        const words = { title: text, description: text, chapters }
        await joinChunks({ chunks: [{ path, frames }], rate, sound: null, out, ending, scratch: join(dir, 'l'), words })
        const args = ['-v', 'error', '-show_format', '-show_chapters', '-of', 'json', out]
        const said = JSON.parse(execFileSync('ffprobe', args).toString()) as {
          format: { tags: Record<string, string> }
          chapters: { start_time: string; tags: Record<string, string> }[]
        }
        const tags = Object.fromEntries(
          Object.entries(said.format.tags).map(([name, tag]) => [name.toLowerCase(), tag]),
        )
        expect([tags.title, tags.description, tags.comment]).toEqual(
          ending === 'mov' ? [text, tags.description, text] : [text, text, text],
        )
        expect(said.chapters.map(({ tags: named }) => named.title)).toEqual(SIGNS)
        expect(said.chapters.map(({ start_time }) => Number(start_time))).toEqual(
          SIGNS.map((_, i) => expect.closeTo(i * 0.4, 2) as number),
        )
      }
      expect(readdirSync(dir).filter((name) => /^l(\.|$)/.test(name))).toEqual([])
    })
})
