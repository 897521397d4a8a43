import { describe, expect, it } from 'vitest'
import {
  BadCaptions,
  postFaults,
  readChapterLines,
  readCues,
  writeChapterLines,
  writeCues,
  type Post,
  type PostLimits,
} from '../src/index'

const LIMITS: PostLimits = {
  place: 'The quay wall',
  kinds: ['video/mp4'],
  maxBytes: 10e6,
  maxSeconds: 60,
  shape: { least: 1.2, most: 2.4, words: 'wide pictures' },
  title: 20,
  description: 30,
  tags: { most: 2, length: 8 },
  chapters: { most: 3, leastSeconds: 2 },
  thumbnail: { maxBytes: 1e6, kinds: ['image/jpeg'] },
}
const POST: Post = {
  ...{ title: 'Lantern night', description: 'At the harbour', tags: ['boats', 'night'] },
  chapters: [
    { at: 0, name: 'Arrival' },
    { at: 20, name: 'Lanterns' },
  ],
  captions: { language: 'en', vtt: 'WEBVTT\n\n00:01.000 --> 00:03.000\nThe boats come in' },
  file: { name: 'night.mp4', kind: 'video/mp4', bytes: 5e6, seconds: 42, width: 1280, height: 720 },
}
const faults = (change: Partial<Post>) => postFaults({ ...POST, ...change }, LIMITS)

describe('what a place would refuse', () => {
  it('is nothing where all fits', () => {
    expect(postFaults(POST, LIMITS)).toEqual([])
  })

  it('is named by field, with the limit and what to do', () => {
    const { file } = POST
    const cases: [Partial<Post>, string, string][] = [
      [{ title: '' }, 'title', 'needs a title'],
      [{ title: 'x'.repeat(21) }, 'title', '21 letters long, 20 at most'],
      [{ description: 'x'.repeat(31) }, 'description', '30 at most'],
      [{ tags: ['a', 'b', 'c'] }, 'tags', '3 tags, 2 at most'],
      [{ tags: ['lanternlight'] }, 'tags', 'longer than 8 letters'],
      [{ file: { ...file, bytes: 12e6 } }, 'size', '12 MB; The quay wall takes 10 MB'],
      [{ file: { ...file, seconds: 3700 } }, 'length', '1:01:40; The quay wall takes 1:00'],
      [{ file: { ...file, width: 720, height: 1280 } }, 'shape', '720 × 1280; The quay wall takes wide pictures'],
      [{ file: { ...file, kind: 'video/x-matroska' } }, 'kind', 'takes MP4 files'],
      [{ chapters: [{ at: 1, name: 'Late' }] }, 'chapters', 'begins with the film'],
      [{ chapters: [{ at: 0, name: '' }] }, 'chapters', 'Chapter 1 needs a name'],
      [{ chapters: [...POST.chapters, { at: 20, name: 'Same' }] }, 'chapters', 'Lanterns has to begin before'],
      [{ chapters: [...POST.chapters, { at: 21, name: 'Soon' }] }, 'chapters', 'Lanterns is shorter than 2 s'],
      [{ chapters: [...POST.chapters, { at: 50, name: 'Over' }] }, 'chapters', 'Over begins after the film’s end'],
      [{ captions: { language: 'en', vtt: 'hello' } }, 'captions', 'no captions in this file'],
      [
        { captions: { language: 'en', vtt: '01:00.000 --> 01:02.000\nLater' } },
        'captions',
        'after the film’s end, at 1:00',
      ],
    ]
    for (const [change, field, words] of cases) {
      const found = faults(change)
      expect(
        found.map((fault) => fault.field),
        words,
      ).toContain(field)
      expect(found.map((fault) => fault.words).join(' ')).toContain(words)
    }
  })

  it('is no shape that is off by a pixel', () => {
    expect(faults({ file: { ...POST.file, width: 718, height: 600 } })).toEqual([])
    expect(faults({ file: { ...POST.file, width: 700, height: 600 } })).toHaveLength(1)
  })
})

describe('captions', () => {
  it('are read from SubRip and WebVTT with notes, names and places, and written alike', () => {
    const subrip =
      '\uFEFF1\r\n00:00:01,500 --> 00:00:03,000\r\nThe boats\r\ncome in\r\n\r\n' +
      '2\r\n01:00:05,000 --> 01:00:06,250\r\nHome\r\n'
    const vtt =
      'WEBVTT - night\n\nNOTE by hand\n\nhome\n01:00:05.000 --> 01:00:06.250 line:0 align:left\nHome\n\n' +
      '00:01.500 --> 00:03.000\nThe boats\ncome in\n'
    const cues = [
      { from: 1500, to: 3000, text: 'The boats\ncome in' },
      { from: 3_605_000, to: 3_606_250, text: 'Home' },
    ]
    expect(readCues(subrip)).toEqual(cues)
    expect(readCues(vtt)).toEqual(cues)
    expect(readCues(writeCues(cues))).toEqual(cues)
  })

  it('say the line that can’t be read', () => {
    const wrong = (text: string) => () => readCues(text)
    expect(wrong('WEBVTT\n\n00:01 --> 00:02\nx')).toThrow(
      new BadCaptions(3, 'a time is written as 00:01:02.500 --> 00:01:05.000.'),
    )
    expect(wrong('WEBVTT\n\n00:02.000 --> 00:01.000\nx')).toThrow('Line 3: these words end before they begin.')
    expect(wrong('')).toThrow('no captions')
  })

  it('never let words begin a cue of their own', () => {
    const [cue] = readCues(writeCues([{ from: 0, to: 1000, text: 'a --> b\n\n00:05.000 --> 00:06.000' }]))
    expect(cue!.text).toBe('a → b\n00:05.000 → 00:06.000')
  })
})

describe('chapters as lines', () => {
  it('are read and written alike, with hours and parts of seconds where there are', () => {
    const chapters = [
      { at: 0, name: 'Arrival' },
      { at: 65.48, name: 'Lanterns 2:00' },
      { at: 3665, name: '' },
    ]
    const text = '0:00 Arrival\n1:05.48 Lanterns 2:00\n1:01:05'
    expect(writeChapterLines(chapters)).toBe(text)
    expect(readChapterLines(`\n${text}\n\n`)).toEqual(chapters)
  })

  it('name the line without a time', () => {
    expect(() => readChapterLines('0:00 Arrival\nLanterns')).toThrow('Chapter 2: it begins with a time')
    expect(() => readChapterLines('0:75 Arrival')).toThrow('Chapter 1')
  })
})
