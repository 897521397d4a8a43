import { statSync, truncateSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { frameCount } from '@dusk/timeline'
import { probe } from '../src/index'
import { readPacketTiming, readTiming } from '../src/frames'
import { readSampleIndex } from '../src/sampleIndex'
import { COUNTING, ffmpeg, folder } from './helpers'

const dir = folder()
const X264 = '-c:v libx264 -preset ultrafast -pix_fmt yuv420p'
const B_FRAMES = `${X264} -x264-params bframes=3:b-adapt=0:b-pyramid=normal`

/** Makes a film of three seconds; with `again` it is copied once more without being encoded, and given that. */
function film(name: string, coded: string, rate = '25', again = ''): string {
  const path = join(dir, name)
  const first = again ? join(dir, `first-${name}`) : path
  ffmpeg(`-f lavfi -i ${COUNTING},fps=${rate} -f lavfi -i sine=440 -t 3 -g 24 ${coded} -map 0:v -map 1:a`, first)
  if (again) ffmpeg(`${again} -i`, first, '-c', 'copy', path)
  return path
}

const FILMS: [words: string, make: () => string, indexed: boolean][] = [
  ['plain', () => film('plain.mp4', X264), true],
  ['B-frames', () => film('b.mp4', B_FRAMES), true],
  ['B-frames in MOV at 29.97', () => film('b.mov', B_FRAMES, '30000/1001'), true],
  ['59.94, index first', () => film('fast.mp4', `${X264} -movflags +faststart`, '60000/1001'), true],
  ['negative composition offsets', () => film('negative.mp4', `${B_FRAMES} -movflags +negative_cts_offsets`), true],
  ['no edit list', () => film('listless.mp4', `${B_FRAMES} -use_editlist 0`), true],
  ['cut between keyframes without encoding', () => film('cut.mp4', B_FRAMES, '25', '-ss 1.3'), false],
  ['begins late', () => film('late.mp4', B_FRAMES, '25', '-itsoffset 0.5'), false],
  ['fragments', () => film('fragments.mp4', `${X264} -movflags +frag_keyframe+empty_moov`), false],
  [
    'a rate that varies',
    () => film('varying.mp4', `-vf select=mod(n\\,7)*mod(n\\,3) -fps_mode vfr ${B_FRAMES}`),
    false,
  ],
]

describe('the index of a file', () => {
  it.each(FILMS)('tells what its packets tell: %s', async (words, make, indexed) => {
    const path = make()
    const info = await probe(path)
    const byPackets = await readPacketTiming(path, info)
    expect(frameCount(byPackets.table)).toBeGreaterThan(30)
    expect(await readTiming(path, info)).toEqual(byPackets)
    if (indexed) expect(await readSampleIndex(path, info), words).toHaveLength(frameCount(byPackets.table))
  })

  it('is not relied upon where the file ends before its pictures do', async () => {
    const path = film('short.mp4', `${X264} -movflags +faststart`)
    const info = await probe(path)
    truncateSync(path, Math.floor(statSync(path).size * 0.7))
    expect(await readSampleIndex(path, info)).toBeNull()
    expect(await readTiming(path, info)).toEqual(await readPacketTiming(path, info))
  })

  it('is not looked for in files of other kinds', async () => {
    const path = film('other.mkv', X264)
    expect(await readSampleIndex(path, await probe(path))).toBeNull()
  })
})
