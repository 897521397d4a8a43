import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { createProject, type FramePlan, type SourceMetadata } from '@dusk/timeline'
import { chunkKey, planChunks } from '../src/render/chunks'
import { ChunkRuns } from '../src/render/chunkRuns'
import { laneCount, laneHelps } from '../src/render/drawChunks'
import { chaptersOf } from '@dusk/interchange'
import { outputShape } from '../src/render/outputShape'
import { framesBetween } from '../src/render/planRender'

const RATE = { num: 25, den: 1 }

describe('chunks', () => {
  it('cover every frame once, whatever the cuts', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5000 }), fc.array(fc.nat(5000)), (frames, cuts) => {
        const chunks = planChunks(
          frames,
          cuts.sort((a, b) => a - b),
          RATE,
        )
        let at = 0
        for (const { first, end } of chunks) {
          expect(first).toBe(at)
          expect(end).toBeGreaterThan(first)
          expect(end - first).toBeLessThanOrEqual(8 * 25)
          at = end
        }
        expect(at).toBe(frames)
      }),
    )
  })

  it('end at cuts where there are any near', () => {
    const ends = planChunks(500, [90, 130, 260], RATE).map((chunk) => chunk.end)
    // 90 is nearest to four seconds; 190 lies four seconds on, with no cut near; 260 is a cut again.
    expect(ends).toEqual([90, 190, 260, 360, 500])
  })

  it('keep their names when shots move, and change them with anything that is seen', () => {
    const metadata = { table: { kind: 'constant', rate: RATE, count: 100 } } as unknown as SourceMetadata
    const book = new Map([
      ['a', { hash: 'h1', metadata }],
      ['b', { hash: 'h2', metadata }],
    ])
    const encoding = { width: 64, height: 36, rate: RATE, codec: 'h264' as const, quality: 'good' as const }
    const plan = (change: object = {}): FramePlan => ({
      width: 64,
      height: 36,
      background: '#000000',
      passThrough: false,
      layers: [
        {
          kind: 'picture' as const,
          assetId: 'a',
          time: 28_224_000,
          width: 64,
          height: 36,
          matrix: [1, 0, 0, 1, 0, 0],
          opacity: 1,
          alpha: false,
          ...change,
        },
      ],
    })
    const key = (value: FramePlan) => chunkKey([value], book, encoding, 'e')
    const same = key(plan())
    // A tick later it is still the same frame of the source.
    expect(key(plan({ time: 28_224_001 }))).toBe(same)
    for (const change of [{ time: 60_000_000 }, { assetId: 'b' }, { opacity: 0.5 }, { matrix: [1, 0, 0, 1, 1, 0] }])
      expect(key(plan(change))).not.toBe(same)
    expect(chunkKey([plan()], book, { ...encoding, quality: 'best' }, 'e')).not.toBe(same)
    expect(chunkKey([plan()], book, encoding, 'other')).not.toBe(same)
  })

  it('count the frames of a range: the last one begins before its end', () => {
    const second = 705_600_000
    const settings = { rate: { num: 30, den: 1 } }
    expect(framesBetween(0, second, settings)).toBe(30)
    expect(framesBetween(0, second + 1, settings)).toBe(31)
    expect(framesBetween(second, second, settings)).toBe(0)
  })
})

describe('a reel in a file', () => {
  const reel = { width: 1920, height: 1080, background: '#000000' }

  it('is drawn at its size where the shapes are alike, rounding aside', () => {
    expect(outputShape(reel, { width: 1280, height: 720 })).toEqual({ width: 1280, height: 720 })
    expect(outputShape(reel, { width: 854, height: 480 })).toEqual({ width: 854, height: 480 })
  })

  it('is whole or fills another shape, in even numbers', () => {
    const file = { width: 1080, height: 1920 }
    const frame = { ...file, background: '#000000' }
    expect(outputShape(reel, file, 'fit')).toEqual({ width: 1080, height: 608, frame })
    expect(outputShape(reel, file, 'fill')).toEqual({ width: 3414, height: 1920, frame })
  })

  it('has chapters from named markers within its range, the first at its beginning', () => {
    const project = createProject('Chapters', { width: 640, height: 360, rate: { num: 25, den: 1 } })
    const reelId = Object.keys(project.reels)[0]!
    const second = 705_600_000
    const marker = (id: string, at: number, name: string) => ({
      [id]: { id, reelId, clipId: null, at: at * second, length: 0, name, colour: 'moss' as const, note: '' },
    })
    const markers = { ...marker('a', 3, 'Lights'), ...marker('b', 1, ''), ...marker('c', 6, 'Tide') }
    const of = (from: number, to: number) =>
      chaptersOf({ ...project, markers }, reelId, from * second, to * second).map(({ from: at, to: end, name }) => [
        ...[at / second, end / second],
        name,
      ])
    expect(of(0, 10)).toEqual([
      [0, 3, 'Beginning'],
      [3, 6, 'Lights'],
      [6, 10, 'Tide'],
    ])
    expect(of(3, 5)).toEqual([[0, 2, 'Lights']])
    expect(of(7, 9)).toEqual([])
  })
})

describe('chunks that are drawn side by side', () => {
  it('are each drawn once, by lanes that go on from where they are as long as they can', () => {
    const sizes = fc.array(fc.integer({ min: 1, max: 200 }), { minLength: 1, maxLength: 60 })
    fc.assert(
      fc.property(
        sizes,
        fc.integer({ min: 1, max: 6 }),
        fc.array(fc.nat(7), { maxLength: 200 }),
        (lengths, lanes, turns) => {
          let at = 0
          const chunks = lengths.map((length) => ({ first: at, end: (at += length) }))
          const runs = new ChunkRuns(chunks, lanes)
          let count = lanes
          const taken: { first: number; end: number }[] = []
          let jumps = 0
          const places = new Map<number, number>()
          const take = (lane: number) => {
            const chunk = runs.next(lane)
            if (!chunk) return false
            if (places.get(lane) !== chunk.first) jumps++
            places.set(lane, chunk.end)
            taken.push(chunk)
            return true
          }
          for (const turn of turns)
            if (turn === 7 && count < 8) count = runs.addLane() + 1
            else take(turn % count)
          for (let lane = 0; runs.left > 0; lane = (lane + 1) % count) take(lane)
          expect(taken.sort((a, b) => a.first - b.first)).toEqual(chunks)
          expect(runs.next(0)).toBeNull()
          // Every jump halves what it takes from: there are few of them.
          expect(jumps).toBeLessThanOrEqual(count + count * Math.ceil(Math.log2(chunks.length + 1)))
        },
      ),
    )
  })

  it('are as many as processors, memory and work allow', () => {
    const chunks = Array.from({ length: 5 }, (_, i) => ({ first: i * 100, end: i * 100 + 100 }))
    const hd = { width: 1920, height: 1080 }
    const GB = 1024 ** 3
    expect(laneCount(chunks, hd, { processors: 4, memory: 16 * GB })).toBe(4)
    expect(laneCount(chunks, hd, { processors: 16, memory: 16 * GB })).toBe(5)
    expect(laneCount(chunks, hd, { processors: 16, memory: 4 * GB })).toBe(2)
    expect(laneCount(chunks, { width: 3840, height: 2160 }, { processors: 16, memory: 4 * GB })).toBe(1)
    expect(laneCount(chunks, hd, { processors: 4, memory: GB })).toBe(1)
    expect(laneCount([{ first: 0, end: 60 }], hd, { processors: 4, memory: 16 * GB })).toBe(1)
  })

  it('become more at once where drawing is waited for, and only after a while of rest where it is not', () => {
    const drawing = { idle: 0.2, drawing: 0.9 }
    expect(laneHelps(drawing, null)).toBe(true)
    expect(laneHelps({ ...drawing, idle: 0.05 }, null)).toBe(false)
    const encoding = { idle: 0.4, drawing: 0.3 }
    expect(laneHelps(encoding, null)).toBe(false)
    expect(laneHelps(encoding, { idle: 0.1, drawing: 0.3 })).toBe(false)
    expect(laneHelps(encoding, encoding)).toBe(true)
    expect(laneHelps({ ...encoding, idle: 0.2 }, encoding)).toBe(false)
  })
})
