import { readFileSync } from 'node:fs'
import { createCanvas, loadImage } from '@napi-rs/canvas'
import { describe, expect, it } from 'vitest'
import { TRANSITIONS } from '../src/index'
import { drawSheets, HEIGHT, WIDTH } from './golden/draw'
import { engine, largestDifference } from './helpers'

const sheets = drawSheets(await engine())

/** Pixels of one picture of a kept sheet. */
async function kept(name: string) {
  const image = await loadImage(readFileSync(new URL(`./golden/${name}.png`, import.meta.url)))
  const canvas = createCanvas(image.width, image.height)
  const context = canvas.getContext('2d')
  context.drawImage(image, 0, 0)
  return (row: number, column: number) =>
    new Uint8Array(context.getImageData(column * WIDTH, row * HEIGHT, WIDTH, HEIGHT).data)
}

describe('pictures that were looked at and accepted', () => {
  it.each([...sheets.keys()])('%s come out as they were (./dusk golden shows them)', async (name) => {
    const rows = sheets.get(name)!
    const picture = await kept(name)
    for (const [i, row] of rows.entries())
      for (const [k, pixels] of row.pictures.entries())
        expect(largestDifference(picture(i, k), pixels), `${row.name}, picture ${k + 1}`).toBeLessThanOrEqual(1)
  })

  it('hold at least sixty transitions, each by a name and an id of its own', () => {
    expect(TRANSITIONS.length).toBeGreaterThanOrEqual(60)
    expect(new Set(TRANSITIONS.map((kind) => kind.id)).size).toBe(TRANSITIONS.length)
    expect(new Set(TRANSITIONS.map((kind) => kind.name)).size).toBe(TRANSITIONS.length)
  })
})
