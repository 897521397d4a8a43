import { LRUCache } from 'lru-cache'
import type { Engine } from '../../engine'
import type { ColourChange } from '../define'
import { clamp } from './tools'

/** Points along each side of a table: the larger one where colours bend quickly. */
const SIZES = [33, 65] as const
/** Bytes of tables that are kept. */
const KEPT = 24 * 1024 ** 2
/** How far off a table may be between its points, in values of 0 to 255, before the larger one is taken. */
const NEAR = 0.8

/** A table in the engine's memory. */
export interface Lut {
  size: number
  address: number
  axis: number
}

/** Colours of a table, four numbers a point: red, green, blue and nothing, times 64. */
export function lutEntries(change: ColourChange, size: number): Int16Array {
  const out = new Int16Array(size * size * size * 4)
  let at = 0
  eachEntry(change, size, (rgb) => {
    for (let c = 0; c < 3; c++) out[at + c] = Math.round(clamp(rgb[c]!) * 255 * 64)
    at += 4
  })
  return out
}

/** Changed colours of a table of `size` entries a side, red fastest; the one list of three is used again and again. */
export function eachEntry(change: ColourChange, size: number, take: (rgb: Float64Array) => void): void {
  const rgb = new Float64Array(3)
  const last = size - 1
  for (let b = 0; b < size; b++)
    for (let g = 0; g < size; g++)
      for (let r = 0; r < size; r++) {
        rgb[0] = r / last
        rgb[1] = g / last
        rgb[2] = b / last
        change(rgb)
        take(rgb)
      }
}

/** Whether a table of a size comes near enough: greys and a scatter of colours between its points. */
function isNear(change: ColourChange, entries: Int16Array, size: number): boolean {
  const last = size - 1
  const rgb = new Float64Array(3)
  const off = (r: number, g: number, b: number): number => {
    // Half way along the diagonal of a cell lies the mean of its ends.
    const at = (k: number) => (((b + k) * size + g + k) * size + r + k) * 4
    rgb[0] = (r + 0.5) / last
    rgb[1] = (g + 0.5) / last
    rgb[2] = (b + 0.5) / last
    change(rgb)
    let most = 0
    for (let c = 0; c < 3; c++)
      most = Math.max(most, Math.abs(clamp(rgb[c]!) * 255 - (entries[at(0) + c]! + entries[at(1) + c]!) / 128))
    return most
  }
  for (let i = 0; i < last; i++) {
    if (off(i, i, i) > NEAR) return false
    if (off(i, (i * 7 + 3) % last, (i * 13 + 5) % last) > NEAR) return false
  }
  return true
}

/** Makes tables of colour changes and keeps them while they are used. */
export class LutStore {
  private readonly kept: LRUCache<string, Lut>
  private readonly axes = new Map<number, number>()

  constructor(private readonly engine: Engine) {
    this.kept = new LRUCache({
      maxSize: KEPT,
      sizeCalculation: ({ size }) => size ** 3 * 8,
      dispose: ({ address }) => engine.heap.release(address),
    })
  }

  /** @param name says what `change` does: the same name, the same table */
  get(name: string, change: ColourChange): Lut {
    const known = this.kept.get(name)
    if (known) return known
    let entries = lutEntries(change, SIZES[0])
    const size = isNear(change, entries, SIZES[0]) ? SIZES[0] : SIZES[1]
    if (size === SIZES[1]) entries = lutEntries(change, size)
    const address = this.engine.heap.allocate(entries.byteLength)
    this.engine.heap.shorts(address, entries.length).set(entries)
    const lut: Lut = { size, address, axis: this.axis(size) }
    this.kept.set(name, lut)
    return lut
  }

  /** For each value of a channel the entry below it and how far it is to the next, of 16384. */
  private axis(size: number): number {
    const known = this.axes.get(size)
    if (known !== undefined) return known
    const address = this.engine.heap.allocate(256 * 8)
    const words = this.engine.heap.words(address, 512)
    for (let value = 0; value < 256; value++) {
      const place = (value * (size - 1)) / 255
      const below = Math.min(Math.floor(place), size - 2)
      words[value * 2] = below
      words[value * 2 + 1] = Math.round((place - below) * 16_384)
    }
    this.axes.set(size, address)
    return address
  }

  release(): void {
    this.kept.clear()
    for (const address of this.axes.values()) this.engine.heap.release(address)
    this.axes.clear()
  }
}
