import { execFileSync } from 'node:child_process'
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { eq, inArray } from 'drizzle-orm'
import { artefacts, assets } from '@dusk/store'
import { makeArtefact } from '../src/jobs/artefact'
import { probeAsset } from '../src/jobs/probe'
import { openWorkBench } from './workBench'

const bench = await openWorkBench('hostile')
const { connection, dir, storage, worker, project, upload, assetRow } = bench
const { db } = connection
afterAll(() => bench.close())

/** Good files of many kinds, and what is done to them. */
const MADE = {
  'boat.mp4': '-f lavfi -i testsrc2=s=96x54:r=25:d=1 -f lavfi -i sine=d=1 -c:v libx264 -pix_fmt yuv420p -c:a aac',
  'boat.mov': '-f lavfi -i testsrc2=s=96x54:r=30:d=1 -c:v mjpeg -pix_fmt yuvj420p',
  'boat.mkv': '-f lavfi -i testsrc2=s=96x54:r=25:d=1 -f lavfi -i sine=d=1 -c:v libx264 -pix_fmt yuv420p -c:a flac',
  'boat.webm': '-f lavfi -i testsrc2=s=96x54:r=25:d=1 -c:v libvpx-vp9 -deadline realtime -cpu-used 8',
  'boat.ts': '-f lavfi -i testsrc2=s=96x54:r=25:d=1 -f lavfi -i sine=d=1 -c:v libx264 -pix_fmt yuv420p -c:a aac',
  'boat.avi': '-f lavfi -i testsrc2=s=96x54:r=25:d=1 -f lavfi -i sine=d=1 -c:v mpeg4 -c:a libmp3lame',
  'boat.gif': '-f lavfi -i testsrc2=s=96x54:r=10:d=1',
  'song.mp3': '-f lavfi -i sine=d=1 -c:a libmp3lame',
  'song.wav': '-f lavfi -i sine=d=1',
  'song.flac': '-f lavfi -i sine=d=1',
  'song.ogg': '-f lavfi -i sine=d=1 -c:a libvorbis',
  'photo.jpg': '-f lavfi -i testsrc2=s=96x54:d=1 -frames:v 1',
  'photo.png': '-f lavfi -i testsrc2=s=96x54:d=1 -frames:v 1',
  'photo.webp': '-f lavfi -i testsrc2=s=96x54:d=1 -frames:v 1 -c:v libwebp',
  'photo.tiff': '-f lavfi -i testsrc2=s=96x54:d=1 -frames:v 1',
  'photo.bmp': '-f lavfi -i testsrc2=s=96x54:d=1 -frames:v 1',
}

/** Numbers that look random and are the same each time. */
function dice(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return state / 2 ** 32
  }
}

/** Ways of spoiling bytes. */
const SPOILT: Record<string, (bytes: Buffer, roll: () => number) => Buffer> = {
  'cut short': (bytes, roll) => bytes.subarray(0, Math.floor(bytes.length * roll())),
  'without its beginning': (bytes, roll) => bytes.subarray(Math.floor(bytes.length * roll() * 0.5) + 1),
  'with bytes changed here and there': (bytes, roll) => {
    for (let n = 0; n < 40; n++) bytes[Math.floor(roll() * bytes.length)] = Math.floor(roll() * 256)
    return bytes
  },
  'with its head changed': (bytes, roll) => {
    for (let n = 0; n < 6; n++) bytes[Math.floor(roll() * Math.min(bytes.length, 120))] = Math.floor(roll() * 256)
    return bytes
  },
  'with large numbers in it': (bytes, roll) => {
    for (let n = 0; n < 4; n++) {
      const at = Math.floor(roll() * bytes.length)
      bytes.fill(0xff, at, Math.min(bytes.length, at + 8))
    }
    return bytes
  },
  'with a hole': (bytes, roll) => {
    const from = Math.floor(roll() * bytes.length)
    return bytes.fill(0, from, Math.min(bytes.length, from + Math.floor(bytes.length / 3)))
  },
  'twice over': (bytes) => Buffer.concat([bytes, bytes]),
  'with something behind it': (bytes, roll) => Buffer.concat([bytes, Buffer.from(`${roll()}`.repeat(2000))]),
  'in pieces that changed places': (bytes, roll) => {
    const at = Math.floor(roll() * bytes.length)
    return Buffer.concat([bytes.subarray(at), bytes.subarray(0, at)])
  },
}

/** Whole files that mean no good, by their name. */
const MEANT: Record<string, string | Buffer> = {
  'list.m3u8': '#EXTM3U\n#EXTINF:1,\nfile:///etc/passwd\n#EXT-X-ENDLIST\n',
  'list.ffconcat': "ffconcat version 1.0\nfile '/etc/passwd'\n",
  'list.mp4': '#EXTM3U\n#EXT-X-BYTERANGE:100@0\nhttp://127.0.0.1:1/a.ts\n',
  'list.mpd': '<?xml version="1.0"?><MPD xmlns="urn:mpeg:dash:schema:mpd:2011"><Period/></MPD>',
  'picture.svg': '<svg xmlns="http://www.w3.org/2000/svg"><image href="file:///etc/passwd"/></svg>',
  'script.jpg': '<script>alert(1)</script>',
  'session.sdp': 'v=0\no=- 0 0 IN IP4 127.0.0.1\ns=x\nc=IN IP4 127.0.0.1\nt=0 0\nm=video 1 RTP/AVP 96\n',
  'subtitles.srt': '1\n00:00:00,000 --> 00:00:01,000\nHello\n',
  'letter.txt': 'Lanterns, at nine.\n'.repeat(400),
  'nothing.mp4': Buffer.alloc(0),
  'one.mp4': Buffer.from([0]),
  'zeros.mov': Buffer.alloc(20_000),
  'ones.png': Buffer.alloc(20_000, 0xff),
  'huge.png': Buffer.concat([
    Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex'),
    Buffer.from('7fffffff7fffffff0806000000deadbeef', 'hex'),
  ]),
  'huge.gif': Buffer.from('474946383961ffffffff00000021f90400000000002c00000000ffffffff000002', 'hex'),
  'huge.wav': Buffer.from(
    '52494646ffffffff57415645666d7420100000000100ffffffffffffffffffffffff200064617461ffffffff',
    'hex',
  ),
  'box.mp4': Buffer.from('00000001667479706d703432ffffffffffffffff0000000866726565', 'hex'),
  'ebml.mkv': Buffer.from('1a45dfa301ffffffffffffff42868101', 'hex'),
}

const files: { name: string; what: string; make: (path: string) => void }[] = []

beforeAll(() => {
  for (const [name, args] of Object.entries(MADE))
    execFileSync('ffmpeg', ['-v', 'error', '-y', ...args.split(' '), join(dir, name)])
})

const ways = Object.entries(SPOILT)
for (const [i, name] of Object.keys(MADE).entries())
  for (const [j, [what, spoil]] of ways.entries())
    for (let round = 0; round < 2; round++) {
      const make = (path: string) =>
        writeFileSync(path, spoil(Buffer.from(readFileSync(join(dir, name))), dice(i * 1000 + j * 10 + round)))
      // A few of them are enough to see that nothing is amiss; all are tried by ./dusk test --long.
      if (process.env.DUSK_LONG || (round === 0 && (i * ways.length + j) % 12 === 0)) files.push({ name, what, make })
    }
for (const [name, content] of Object.entries(MEANT))
  files.push({ name, what: 'as it is', make: (path) => writeFileSync(path, content) })

/** Whether a person can do something with words: no path, no stack, no name of ours. */
const areWords = (message: string | null) =>
  /^[A-Z“][\s\S]{10,400}$/.test(message ?? '') &&
  !/\/tmp|node_modules|\bat \w+ \(|undefined|ENOENT|SELECT|insert into|\[object/i.test(message!)

describe('files that are damaged or mean no good', () => {
  it('are taken in as far as they go or refused in words, and nothing is left behind', async () => {
    const quiet = vi.spyOn(console, 'error').mockImplementation(() => {})
    const { id } = await project()
    const outcomes = { ready: 0, refused: 0 }
    const faults: string[] = []
    for (const { name, what, make } of files) {
      const fault = (words: string) => faults.push(`${name} ${what}: ${words}`)
      const asset = await upload(id, make)
      await db.update(assets).set({ fileName: name }).where(eq(assets.id, asset.id))
      await probeAsset(worker(), { id: asset.id, attempt: 0 })
      const row = (await assetRow(asset.id))!
      if (existsSync(asset.uploadPath)) fault('its upload is still there')
      if (row.state === 'ready') outcomes.ready++
      else outcomes.refused++
      const wanted = row.hash ? await db.select().from(artefacts).where(eq(artefacts.source, row.hash)) : []
      for (const { key, attempt } of wanted) await makeArtefact(worker(), { id: key, attempt })
      const made = row.hash ? await db.select().from(artefacts).where(eq(artefacts.source, row.hash)) : []
      for (const { kind, state, message } of [{ ...row, kind: 'it' }, ...made]) {
        // Damage is told at once: it is not an error of ours, to be tried again.
        if (state !== 'ready' && state !== 'failed') fault(`${kind} is left ${state}`)
        if (state === 'failed' && !areWords(message)) fault(`${kind} says ${message}`)
      }
      for (const call of quiet.mock.calls.splice(0)) fault(call.map(String).join(' '))
    }
    expect(faults).toEqual([])
    // Both happen, or it shows nothing.
    expect(outcomes.ready).toBeGreaterThan(1)
    expect(outcomes.refused).toBeGreaterThan(10)
    expect(
      await db
        .select()
        .from(assets)
        .where(inArray(assets.state, ['waiting', 'working'])),
    ).toEqual([])
    const scratch = storage.path('scratch')
    const left = existsSync(scratch) ? readdirSync(scratch).flatMap((inner) => readdirSync(join(scratch, inner))) : []
    expect(left).toEqual([])
    quiet.mockRestore()
  })
})
