/** How Y′CbCr is made from R′G′B′: by ITU-R BT.601 or BT.709. */
export type ColourMatrix = 'bt601' | 'bt709'
/** Limited: luma 16–235, chroma 16–240. Full: 0–255. */
export type ColourRange = 'limited' | 'full'

/** Weights of red and blue in luma: ITU-R BT.601-7 § 2.5.1 and BT.709-6 § 3.2. */
const LUMA = { bt601: { r: 0.299, b: 0.114 }, bt709: { r: 0.2126, b: 0.0722 } } as const

/** Coefficients for {@link Kernels.yuvToRgba}, times 8192. */
export function yuvToRgbCoefficients(matrix: ColourMatrix, range: ColourRange) {
  const { r, b } = LUMA[matrix]
  const g = 1 - r - b
  const [black, y, c] = range === 'limited' ? [16, 255 / 219, 255 / 224] : [0, 1, 1]
  const fixed = (value: number) => Math.round(value * 8192)
  return {
    yOff: black,
    yMul: fixed(y),
    rV: fixed(2 * (1 - r) * c),
    gU: fixed((-2 * b * (1 - b) * c) / g),
    gV: fixed((-2 * r * (1 - r) * c) / g),
    bU: fixed(2 * (1 - b) * c),
  }
}

/** Coefficients for {@link Kernels.rgbaToYuv}, times 32768. Rows sum exactly, so that grey stays grey. */
export function rgbToYuvCoefficients(matrix: ColourMatrix, range: ColourRange) {
  const { r, b } = LUMA[matrix]
  const g = 1 - r - b
  const [black, y, c] = range === 'limited' ? [16, 219 / 255, 224 / 255] : [0, 1, 1]
  const fixed = (value: number) => Math.round(value * 32_768)
  const [yR, yB] = [fixed(r * y), fixed(b * y)]
  const [uR, uB] = [fixed((-r / (2 * (1 - b))) * c), Math.min(fixed(0.5 * c), 32_767)]
  const [vR, vB] = [Math.min(fixed(0.5 * c), 32_767), fixed((-b / (2 * (1 - r))) * c)]
  return {
    yR,
    yG: Math.min(fixed((r + g + b) * y) - yR - yB, 32_767),
    yB,
    yBias: (black << 15) + (1 << 14),
    uR,
    uG: -uR - uB,
    uB,
    vR,
    vG: -vR - vB,
    vB,
  }
}

/** Red, green and blue of `#rrggbb`, 0 to 255. */
export function colourParts(hex: string): [number, number, number] {
  const value = Number.parseInt(hex.slice(1), 16)
  return [value >> 16, (value >> 8) & 0xff, value & 0xff]
}

/** `#rrggbb` as a little-endian opaque RGBA word. */
export function colourWord(hex: string): number {
  const value = Number.parseInt(hex.slice(1), 16)
  return 0xff000000 | ((value & 0xff) << 16) | (value & 0xff00) | (value >> 16) | 0
}
