import { describe, expect, it } from 'vitest'
import {
  cellParams,
  clipLook,
  clipsOn,
  LAYOUTS,
  moveViews,
  panAndZoom,
  PICTURE_MOVES,
  placeMatrix,
  type Clip,
  type Params,
  type Project,
} from '../src/index'
import { CARD, desk, f, RATE_30, run, uuid } from './helpers'

const WIDE = { width: 1920, height: 1080 }
const SHAPES = [
  { width: 1080, height: 1920 },
  { width: 1080, height: 1080 },
  { width: 2560, height: 1080 },
  { width: 1080, height: 1350 },
]
const CARD_SIZE = { width: 800, height: 600 }

/** A still of 800 × 600 for 90 frames, with settings, in a wide reel. */
function still(params: Params, keyed = false): { project: Project; reelId: string; trackId: string } {
  const { project, reelId, picture1 } = desk()
  const clipId = uuid(0x771)
  const piece = { clipId, trackId: picture1.id, assetId: CARD, stream: null, start: 0, length: f(90), source: 0 }
  const placed = run(project, { type: 'place', mode: 'free', pieces: [{ ...piece, link: null }] })
  const set = run(placed, { type: 'setParams', clipIds: [clipId], set: params as never })
  expect(keyed).toBe(typeof (set.clips[clipId]!.params.size as { keys?: unknown }) === 'object')
  return { project: set, reelId, trackId: picture1.id }
}

const reshaped = (project: Project, reelId: string, shape: { width: number; height: number }) =>
  run(project, { type: 'setReel', reelId, set: { format: { ...shape, rate: RATE_30 } } })

/** Where the picture's visible part lies, as parts of the frame, at a clip time. */
function box(clip: Clip, format: { width: number; height: number }, time: number) {
  const look = clipLook(clip.params, time)
  const [a, , , d, e, g] = placeMatrix(look, 'fit', CARD_SIZE, format)
  const [left, right] = [look.cropLeft / 100, 1 - look.cropRight / 100].map(
    (u) => (a * u * CARD_SIZE.width + e) / format.width,
  )
  const [top, bottom] = [look.cropTop / 100, 1 - look.cropBottom / 100].map(
    (v) => (d * v * CARD_SIZE.height + g) / format.height,
  )
  return { left: left!, right: right!, top: top!, bottom: bottom! }
}

describe('a reel in another shape', () => {
  it.each(SHAPES)('is still filled by stills that move, at $width × $height', (shape) => {
    for (const move of PICTURE_MOVES) {
      const [from, to] = moveViews(move, CARD_SIZE, WIDE)
      const params = panAndZoom(from, to, { head: 0, length: f(90) }, CARD_SIZE, WIDE, 'fit')
      const { project, reelId, trackId } = still(params, true)
      const [clip] = clipsOn(reshaped(project, reelId, shape), trackId)
      for (const time of [0, f(45), f(90)]) {
        const { left, right, top, bottom } = box(clip!, shape, time)
        expect(Math.max(left, top), `${move.id} at ${time}`).toBeLessThan(0.002)
        expect(Math.min(right, bottom), `${move.id} at ${time}`).toBeGreaterThan(0.998)
      }
    }
  })

  it('comes back to the picture that it was', () => {
    const [from, to] = moveViews(PICTURE_MOVES[0], CARD_SIZE, WIDE)
    const params = panAndZoom(from, to, { head: 0, length: f(90) }, CARD_SIZE, WIDE, 'fit')
    const { project, reelId, trackId } = still(params, true)
    const there = reshaped(project, reelId, SHAPES[0]!)
    const [back] = clipsOn(reshaped(there, reelId, WIDE), trackId)
    const [was] = clipsOn(project, trackId)
    for (const time of [0, f(90)])
      for (const side of ['left', 'right', 'top', 'bottom'] as const)
        expect(box(back!, WIDE, time)[side]).toBeCloseTo(box(was!, WIDE, time)[side], 2)
  })

  it.each(SHAPES)('has its split screens in the same parts of the frame, filled, at $width × $height', (shape) => {
    const look = { gap: 0, cornerRadius: 8, border: 2, borderColour: '#f3ece2' }
    for (const { id, cells } of LAYOUTS)
      for (const cell of cells) {
        if (cell.width > 0.999 && cell.height > 0.999) continue
        const { project, reelId, trackId } = still(cellParams(cell, look, CARD_SIZE, WIDE, 'fit', [0.4, -0.3]))
        const [clip] = clipsOn(reshaped(project, reelId, shape), trackId)
        const { left, right, top, bottom } = box(clip!, shape, 0)
        expect(left, id).toBeCloseTo(cell.x, 2)
        expect(top, id).toBeCloseTo(cell.y, 2)
        expect(right, id).toBeCloseTo(cell.x + cell.width, 2)
        expect(bottom, id).toBeCloseTo(cell.y + cell.height, 2)
      }
  })

  it('keeps a small picture in its corner, as before', () => {
    const { project, reelId, trackId } = still({ size: 25, position: [600, 300] })
    const [clip] = clipsOn(reshaped(project, reelId, SHAPES[0]!), trackId)
    expect(clip!.params.size).toBe(25)
    const [x, y] = clip!.params.position as unknown as [number, number]
    expect(x).toBeCloseTo(337.5, 1)
    expect(y).toBeCloseTo(533.33, 1)
  })
})
