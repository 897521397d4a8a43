import type { Engine } from '../engine'
import type { Picture } from '../picture'

/** A picture at some halving. Sides that are odd are rounded up. */
export interface Half {
  address: number
  width: number
  height: number
}

/** Pictures at half their size, a quarter and so on, each made once. */
export class Halves {
  private readonly levels = new Map<Picture, Half[]>()
  private readonly owned: number[] = []

  constructor(private readonly engine: Engine) {}

  /** @param level how often it is halved: 0 is the picture itself */
  at(picture: Picture, level: number): Half {
    const { width, height } = picture
    if (level === 0) return { address: picture.address(), width, height }
    let list = this.levels.get(picture)
    if (!list) this.levels.set(picture, (list = []))
    while (list.length < level) list.push(this.next(picture, list))
    return list[level - 1]!
  }

  private next(picture: Picture, list: readonly Half[]): Half {
    // Some pictures have a half of their own, without what they are at full size being worked out.
    const given = list.length === 0 ? picture.half() : null
    if (given !== null) return { address: given, width: picture.width / 2, height: picture.height / 2 }
    const from = list.at(-1) ?? this.at(picture, 0)
    const [width, height] = [(from.width + 1) >> 1, (from.height + 1) >> 1]
    const address = this.engine.heap.allocate(width * height * 4)
    this.engine.kernels.halve(from.address, from.width, from.height, address)
    this.owned.push(address)
    return { address, width, height }
  }

  /** Gives back what was made. */
  release(): void {
    for (const address of this.owned.splice(0)) this.engine.heap.release(address)
    this.levels.clear()
  }
}
