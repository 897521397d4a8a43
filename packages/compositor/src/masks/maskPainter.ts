import { LRUCache } from 'lru-cache'
import { sinCosDegrees, type MaskPlan, type MaskShapePlan } from '@dusk/timeline'
import type { Engine } from '../engine'
import { outlineOf } from './outline'

/** Where the picture lies in its sheet, and how large the sheet is, in pixels. */
export interface MaskGround {
  /** Size of the sheet. */
  width: number
  height: number
  /** The picture in it. */
  bounds: { x: number; y: number; width: number; height: number }
  /** Pixels per pixel of the reel. */
  scale: number
}

/** Bytes of masks that are kept: those that don't move are drawn once. */
const KEPT = 24 * 1024 ** 2

/** Draws masks: a byte a pixel, 0 where nothing is covered, 255 where all is. */
export class MaskPainter {
  private readonly kept: LRUCache<string, { address: number; size: number }>

  constructor(private readonly engine: Engine) {
    this.kept = new LRUCache({
      maxSize: KEPT,
      maxEntrySize: KEPT,
      sizeCalculation: ({ size }) => size,
      dispose: ({ address }) => engine.heap.release(address),
    })
  }

  /** A mask on a sheet. @returns its address; good until the next is drawn */
  plane(mask: MaskPlan, ground: MaskGround): number {
    const name = JSON.stringify([mask, ground])
    const known = this.kept.get(name)
    if (known) return known.address
    const size = ground.width * ground.height
    const { heap, kernels } = this.engine
    const address = heap.allocate(size)
    const one = heap.allocate(size)
    const distance = heap.allocate(size * 4)
    for (const [i, shape] of mask.entries()) {
      // What the first shape is taken from is everything, what it is added to nothing.
      if (i === 0) heap.bytes(address, size).fill(shape.mode === 'add' ? 0 : 255)
      this.shape(shape, ground, distance, one)
      kernels.joinCover(address, one, size, shape.mode === 'add' ? 0 : shape.mode === 'subtract' ? 1 : 2)
    }
    heap.release(distance)
    heap.release(one)
    this.kept.set(name, { address, size })
    return address
  }

  release(): void {
    this.kept.clear()
  }

  private shape(shape: MaskShapePlan, ground: MaskGround, distance: number, plane: number): void {
    const { kernels } = this.engine
    const { width, height, bounds, scale } = ground
    const { settings, kind } = shape
    const number = (key: string) => Number(settings[key] ?? 0)
    const [px, py] = settings.position as readonly [number, number]
    const x = bounds.x + (bounds.width * px) / 100
    const y = bounds.y + (bounds.height * py) / 100
    const [sin, cos] = sinCosDegrees(number('rotation'))
    const grow = number('grow') * scale
    let [inner, outer, straight] = [number('inner') * scale - grow, number('outer') * scale + grow, 0]
    if (kind === 'rectangle' || kind === 'ellipse' || kind === 'radial') {
      const [w, h] = settings.size as readonly [number, number]
      const hx = Math.max(0.01, (bounds.width * w) / 200)
      const hy = Math.max(0.01, (bounds.height * h) / 200)
      const corner = Math.min(number('corner') * scale, hx, hy)
      kernels.boxDistance(distance, width, height, x, y, hx, hy, cos, sin, corner, kind === 'rectangle' ? 0 : 1)
      if (kind === 'radial') [inner, outer, straight] = [Math.min(hx, hy), 0, 1]
    } else if (kind === 'straight') {
      kernels.slopeDistance(distance, width, height, x, y, -sin, cos, 0)
      const half = (bounds.height * number('length')) / 200
      ;[inner, outer, straight] = [half, half, 1]
    } else {
      const size = number('scale') / 100
      const reach = Math.max(Math.abs(inner), Math.abs(outer)) + 2
      kernels.farAway(distance, width * height, reach)
      const place = (u: number, v: number): [number, number] => {
        const [dx, dy] = [(bounds.width * u * size) / 100, (bounds.height * v * size) / 100]
        return [x + dx * cos - dy * sin, y + dx * sin + dy * cos]
      }
      if (kind === 'pen') this.outline(shape, ground, distance, reach, place)
      else this.strokes(shape, ground, distance, reach, place, size)
    }
    const invert = settings.invert === true ? 1 : 0
    kernels.cover(distance, plane, width * height, inner, outer, number('opacity') / 100, invert, straight)
  }

  private outline(
    { points = [] }: MaskShapePlan,
    { width, height }: MaskGround,
    distance: number,
    reach: number,
    place: (u: number, v: number) => [number, number],
  ): void {
    if (points.length < 3) return
    const { heap, kernels } = this.engine
    const turns = heap.allocate(width * height * 4)
    kernels.fill(turns, width * height, 0)
    const line = outlineOf(points, place)
    for (const [i, [x0, y0]] of line.entries()) {
      const [x1, y1] = line[(i + 1) % line.length]!
      kernels.nearLine(distance, width, height, x0, y0, x1, y1, 0, reach, 0)
      kernels.crossRows(turns, width, height, x0, y0, x1, y1)
    }
    kernels.signInside(turns, distance, width, height)
    heap.release(turns)
  }

  private strokes(
    { strokes = [] }: MaskShapePlan,
    { width, height, bounds }: MaskGround,
    distance: number,
    reach: number,
    place: (u: number, v: number) => [number, number],
    size: number,
  ): void {
    const { kernels } = this.engine
    for (const { radius, erase, places } of strokes) {
      const wide = Math.max(0.5, (bounds.height * radius * size) / 100)
      const line = places.map(([u, v]) => place(u, v))
      for (const [i, [x0, y0]] of line.entries()) {
        // A stroke of one place is a dot.
        const [x1, y1] = line[i + 1] ?? line[i]!
        if (i > 0 && i === line.length - 1) break
        kernels.nearLine(distance, width, height, x0, y0, x1, y1, wide, reach, erase ? 1 : 0)
      }
    }
  }
}
