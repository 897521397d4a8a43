/** What came in, kept for a while. */
export class DelayLine {
  private readonly buffer: Float32Array
  private readonly mask: number
  private head = 0

  /** @param most longest delay in samples */
  constructor(most: number) {
    let size = 2
    while (size < most + 4) size *= 2
    this.buffer = new Float32Array(size)
    this.mask = size - 1
  }

  /** Takes a sample in; it is then at a delay of 0. */
  push(value: number): void {
    this.head = (this.head + 1) & this.mask
    this.buffer[this.head] = Math.abs(value) < 1e-20 ? 0 : value
  }

  /** The sample that came in `delay` samples ago. */
  at(delay: number): number {
    return this.buffer[(this.head - delay) & this.mask]!
  }

  /** Between samples, straight from one to the next. */
  between(delay: number): number {
    const whole = Math.floor(delay)
    const part = delay - whole
    return this.at(whole) * (1 - part) + this.at(whole + 1) * part
  }
}
