/** How far along a meter of 60 dB a peak lies: 0 at −60 dB and below, 1 at full scale, more beyond it. */
export const meterPart = (peak: number): number => (peak > 0.001 ? (20 * Math.log10(peak) + 60) / 60 : 0)
