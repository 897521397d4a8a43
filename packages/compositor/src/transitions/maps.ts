import type { Engine } from '../engine'

/**
 * Where a change is how late: 0 changes first, 1 last. `x` and `y` go from 0 to 1 across the picture, `aspect` is its
 * width over its height.
 */
export type Shape = (x: number, y: number, aspect: number) => number

/** How many maps are kept; one is two bytes a pixel. */
const KEPT = 6

/** Maps of shapes in the engine's memory, made once for a size. */
export class MapStore {
  private readonly maps = new Map<string, number>()

  constructor(private readonly engine: Engine) {}

  /** Address of a map of u16. `key` names the shape with everything that decides it. */
  get(key: string, width: number, height: number, shape: Shape): number {
    const name = `${width} ${height} ${key}`
    const kept = this.maps.get(name)
    if (kept !== undefined) {
      this.maps.delete(name)
      this.maps.set(name, kept)
      return kept
    }
    const { heap } = this.engine
    const at = heap.allocate(width * height * 2)
    const values = heap.shorts(at, width * height)
    const aspect = width / height
    for (let y = 0, i = 0; y < height; y++) {
      const v = (y + 0.5) / height
      for (let x = 0; x < width; x++, i++) {
        const value = shape((x + 0.5) / width, v, aspect)
        values[i] = Math.round(Math.min(1, Math.max(0, value)) * 65_535)
      }
    }
    this.maps.set(name, at)
    if (this.maps.size > KEPT) {
      const [oldest, address] = this.maps.entries().next().value!
      this.maps.delete(oldest)
      heap.release(address)
    }
    return at
  }

  release(): void {
    for (const address of this.maps.values()) this.engine.heap.release(address)
    this.maps.clear()
  }
}
