const HALF_POWER = 0.7071067811865476

/** Part of each source channel in left and right. */
export interface Downmix {
  left: number[]
  right: number[]
}

/**
 * How a number of channels becomes stereo. One channel goes to both sides at its own level; four to eight follow the
 * fold-down of ITU-R BS.775-4 (centre and surrounds 3 dB down, the low-frequency channel left out), in the order that
 * files use (L R C LFE Ls Rs …). Others: odd ones left, even ones right.
 */
export function downmix(channels: number): Downmix {
  const h = HALF_POWER
  switch (channels) {
    case 1:
      return { left: [1], right: [1] }
    case 2:
      return { left: [1, 0], right: [0, 1] }
    case 3:
      return { left: [1, 0, h], right: [0, 1, h] }
    case 4:
      return { left: [1, 0, h, 0], right: [0, 1, 0, h] }
    case 5:
      return { left: [1, 0, h, h, 0], right: [0, 1, h, 0, h] }
    case 6:
      return { left: [1, 0, h, 0, h, 0], right: [0, 1, h, 0, 0, h] }
    case 8:
      return { left: [1, 0, h, 0, h, 0, h, 0], right: [0, 1, h, 0, 0, h, 0, h] }
  }
  const share = 1 / Math.ceil(channels / 2)
  const side = (parity: number) => Array.from({ length: channels }, (_, i) => (i % 2 === parity ? share : 0))
  return { left: side(0), right: side(1) }
}
