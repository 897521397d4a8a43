import { describe, expect, it } from 'vitest'
import { applyCommand, clipsOn, commandSchema, createProject, reelsOf } from '@dusk/timeline'
import { rowsOf } from '~/features/timeline/layout'
import { paintTimeline } from '~/features/timeline/paint'
import type { TimelineView } from '~/features/timeline/view'
import { HARBOUR, SECOND } from './tools/server'

/** A canvas that takes what is drawn and, as a real one, no negative radius. */
function canvas() {
  const boxes: { width: number; radius: number }[] = []
  const drawn: Record<string, unknown> = {
    roundRect(_x: number, _y: number, width: number, _h: number, radius: number) {
      if (radius < 0) throw new RangeError(`Radius value ${radius} is negative.`)
      boxes.push({ width, radius })
    },
    measureText: () => ({ width: 40 }),
  }
  const context = new Proxy(drawn, { get: (held, name: string) => held[name] ?? (() => {}) })
  return { context: context as unknown as CanvasRenderingContext2D, boxes }
}

describe('clips seen from far away', () => {
  it('are drawn and marked as selected, however few pixels are left of them', () => {
    const reel = createProject('Far', { width: 1920, height: 1080, rate: { num: 30, den: 1 } })
    const reelId = reelsOf(reel)[0]!.id
    const rows = rowsOf(reel, reelId)
    const row = rows.find((entry) => entry.track.name === 'Picture 1')!
    const piece = { clipId: crypto.randomUUID(), trackId: row.track.id, assetId: HARBOUR.id, stream: null, link: null }
    const project = [
      { type: 'addAsset', asset: HARBOUR },
      { type: 'place', mode: 'free', pieces: [{ ...piece, start: 0, length: SECOND, source: 0 }] },
    ].reduce((held, input) => applyCommand(held, commandSchema.parse(input), crypto.randomUUID()).project, reel)
    for (const pixelsPerSecond of [0.01, 1.3, 1.9, 40]) {
      const { context, boxes } = canvas()
      const view: TimelineView = {
        ...{ project, rows, sources: {}, changed: new Map(), lifted: new Set(), ghosts: [], ghostBad: false },
        ...{ slips: new Map(), markers: new Map(), unready: new Map(), range: null, band: null },
        ...{ rate: { num: 30, den: 1 }, width: 800, height: 300, scroll: 0, scrollY: 0, pixelsPerSecond },
        lanes: new Map([[row.track.id, clipsOn(project, row.track.id)]]),
        selection: new Set([piece.clipId]),
      }
      const media = { sheet: () => null, wave: () => null } as unknown as Parameters<typeof paintTimeline>[2]
      paintTimeline(context, view, media, () => '#000')
      expect(boxes.at(-1)!.width).toBeGreaterThanOrEqual(1)
      expect(boxes.at(-1)!.radius).toBeLessThanOrEqual(boxes.at(-1)!.width / 2)
    }
  })
})
