/** Blocks start on multiples of this, and the first one after it: kernels load 16 bytes at a time. */
const GRAIN = 64
/** Room behind every block for loads that reach past its last pixel. */
const PADDING = 64
/** What the memory grows by at least: whenever it does, what the page or process has to collect is collected. */
const STEP = 32 * 1024 ** 2
const PAGE = 65_536

/** Memory of the kernels, handed out in blocks. First fit, neighbours joined on release. */
export class Heap {
  /** Free stretches by address, rising. */
  private free: { at: number; size: number }[] = []
  private readonly used = new Map<number, number>()
  private top = 1024

  constructor(private readonly memory: WebAssembly.Memory) {}

  /** Bytes handed out and not yet released. */
  get bytesInUse(): number {
    let sum = 0
    for (const size of this.used.values()) sum += size
    return sum
  }

  /**
   * A block of at least `bytes`. Its contents are undefined.
   * @throws {RangeError} when the 4 GiB that WebAssembly can address are full
   */
  allocate(bytes: number): number {
    const size = Math.ceil((bytes + PADDING) / GRAIN) * GRAIN
    const index = this.free.findIndex((block) => block.size >= size)
    let at: number
    if (index >= 0) {
      const block = this.free[index]!
      at = block.at
      if (block.size === size) this.free.splice(index, 1)
      else this.free[index] = { at: block.at + size, size: block.size - size }
    } else {
      at = this.top
      this.top += size
      const missing = this.top - this.memory.buffer.byteLength
      if (missing > 0) this.grow(missing)
    }
    this.used.set(at, size)
    return at
  }

  private grow(missing: number): void {
    const needed = Math.ceil(missing / PAGE)
    try {
      this.memory.grow(Math.max(needed, STEP / PAGE))
    } catch {
      // So much is not to be had, but what is needed may be.
      this.memory.grow(needed)
    }
  }

  /** Gives a block back. @throws {RangeError} when it is not one, or was given back before */
  release(at: number): void {
    const size = this.used.get(at)
    if (size === undefined) throw new RangeError(`Block ${at} is not in use.`)
    this.used.delete(at)
    let index = this.free.findIndex((block) => block.at > at)
    if (index < 0) index = this.free.length
    this.free.splice(index, 0, { at, size })
    const next = this.free[index + 1]
    if (next && at + size === next.at) this.free.splice(index, 2, { at, size: size + next.size })
    const before = this.free[index - 1]
    const here = this.free[index]!
    if (before && before.at + before.size === here.at)
      this.free.splice(index - 1, 2, { at: before.at, size: before.size + here.size })
    const last = this.free.at(-1)
    if (last && last.at + last.size === this.top) {
      this.top = last.at
      this.free.pop()
    }
  }

  /** Bytes of a block. The view is good until the next {@link allocate}, which may move the memory. */
  bytes(at: number, length: number): Uint8Array<ArrayBuffer> {
    return new Uint8Array(this.memory.buffer as ArrayBuffer, at, length)
  }

  words(at: number, length: number): Int32Array<ArrayBuffer> {
    return new Int32Array(this.memory.buffer as ArrayBuffer, at, length)
  }

  floats(at: number, length: number): Float32Array<ArrayBuffer> {
    return new Float32Array(this.memory.buffer as ArrayBuffer, at, length)
  }

  shorts(at: number, length: number): Int16Array<ArrayBuffer> {
    return new Int16Array(this.memory.buffer as ArrayBuffer, at, length)
  }
}
