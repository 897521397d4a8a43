import binary from '../../build/kernels'

interface Exports {
  memory: WebAssembly.Memory
  filter(count: number, samples: number): void
  compress(into: number, knee: number, slope: number, attack: number, release: number, makeup: number): void
  between(): void
  add(left: number, right: number, leftStep: number, rightStep: number): void
  INPUT: WebAssembly.Global
  LEFT: WebAssembly.Global
  RIGHT: WebAssembly.Global
  COEFFICIENTS: WebAssembly.Global
  STATES: WebAssembly.Global
  COMPRESSOR: WebAssembly.Global
  TAPS: WebAssembly.Global
  HISTORY: WebAssembly.Global
  PEAKS: WebAssembly.Global
}

/** What blocks are worked on with, and the places that are filled before and read after. */
export interface SoundKernels {
  /** Runs filters over the first `samples` of {@link left} and {@link right}. */
  filter(count: number, samples: number): void
  /** Holds down what is loud in {@link left} and {@link right}; see `kernels/compress.ts`. */
  compress(into: number, knee: number, slope: number, attack: number, release: number, makeup: number): void
  /** Raises {@link peaks} to what {@link history} reaches between its samples. */
  between(): void
  /** Adds {@link input} to {@link left} and {@link right}, at factors that grow from sample to sample. */
  add(left: number, right: number, leftStep: number, rightStep: number): void
  readonly input: Float32Array
  readonly left: Float32Array
  readonly right: Float32Array
  readonly coefficients: Float64Array
  readonly states: Float64Array
  readonly compressor: Float64Array
  readonly taps: Float32Array
  readonly history: Float32Array
  readonly peaks: Float32Array
}

const BLOCK = 128
let made: SoundKernels | null = null

/** The kernels; made when they are first used. One instance serves all: each call fills what it uses. */
export function soundKernels(): SoundKernels {
  if (made) return made
  const bytes = Uint8Array.from(atob(binary), (letter) => letter.charCodeAt(0))
  const module = new WebAssembly.Module(bytes)
  const { exports } = new WebAssembly.Instance(module, { env: { abort: () => {} } })
  const kernels = exports as unknown as Exports
  const { buffer } = kernels.memory
  const floats = (place: WebAssembly.Global, count: number) => new Float32Array(buffer, Number(place.value), count)
  const doubles = (place: WebAssembly.Global, count: number) => new Float64Array(buffer, Number(place.value), count)
  return (made = {
    filter: kernels.filter,
    compress: kernels.compress,
    between: kernels.between,
    add: kernels.add,
    input: floats(kernels.INPUT, BLOCK * 2),
    left: floats(kernels.LEFT, BLOCK),
    right: floats(kernels.RIGHT, BLOCK),
    coefficients: doubles(kernels.COEFFICIENTS, 16 * 5),
    states: doubles(kernels.STATES, 16 * 4),
    compressor: doubles(kernels.COMPRESSOR, 6),
    taps: floats(kernels.TAPS, 3 * 24),
    history: floats(kernels.HISTORY, 24 + BLOCK),
    peaks: floats(kernels.PEAKS, BLOCK),
  })
}
