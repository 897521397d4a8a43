import type { Engine } from '../../engine'

/** Side of the tile of noise in pixels, as the kernel has it. */
const SIDE = 512

/** A tile of noise, made when it is first asked for. */
export class NoiseTile {
  private made: number | null = null

  constructor(private readonly engine: Engine) {}

  get address(): number {
    if (this.made === null) {
      this.made = this.engine.heap.allocate(SIDE * SIDE * 4)
      this.engine.kernels.noiseTile(this.made, 4099)
    }
    return this.made
  }

  release(): void {
    if (this.made !== null) this.engine.heap.release(this.made)
    this.made = null
  }
}
