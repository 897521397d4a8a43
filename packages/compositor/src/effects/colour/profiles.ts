import { exp2, log2, power } from '@dusk/timeline'

/** A flat curve that cameras write, by an open formula. */
export interface Profile {
  name: string
  /** From what is shown (0 to 1, gamma 2.4 of ITU-R BT.1886) to what the camera would have written. */
  encode(shown: number): number
}

const LN10 = 3.321928094887362
const log10 = (value: number) => log2(value) / LN10
/** Light of what is shown: ITU-R BT.1886 with black at nothing. */
const lightOf = (shown: number) => power(Math.max(0, shown), 2.4)

/**
 * Flat profiles whose formulas are published, so that tables made for them can be used on ordinary footage. Shown
 * white is taken as light of 1.
 */
export const PROFILES = {
  /** ITU-R BT.2100-2, table 5: hybrid log-gamma, white at its reference of 0.75. */
  hybridLog: {
    name: 'Hybrid log-gamma',
    encode(shown) {
      const e = lightOf(shown) * 0.265
      const [a, b, c] = [0.17883277, 0.28466892, 0.55991073]
      return e <= 1 / 12 ? Math.sqrt(3 * e) : (a * log2(12 * e - b)) / log2(2.718281828459045) + c
    },
  },
  /** ITU-R BT.2100-2, table 4: perceptual quantiser, white at 203 cd/m² (BT.2408). */
  perceptual: {
    name: 'Perceptual quantiser',
    encode(shown) {
      const y = power((lightOf(shown) * 203) / 10_000, 0.1593017578125)
      return power((0.8359375 + 18.8515625 * y) / (1 + 18.6875 * y), 78.84375)
    },
  },
  /** Academy S-2014-003: ACEScc's curve. */
  academyLog: {
    name: 'Academy log (ACEScc)',
    encode(shown) {
      const light = lightOf(shown)
      const small = exp2(-16)
      return ((light < small * 2 ? log2(small + light / 2) : log2(light)) + 9.72) / 17.52
    },
  },
  /** The printing density of scanned film: 10 bit codes, 0.002 density a code, white at 685 (SMPTE RP 180). */
  filmScan: {
    name: 'Film scan (10-bit density)',
    encode(shown) {
      const black = power(10, ((95 - 685) * 0.002) / 0.6)
      const light = lightOf(shown) * (1 - black) + black
      return (685 + (log10(light) * 0.6) / 0.002) / 1023
    },
  },
} satisfies Record<string, Profile>
