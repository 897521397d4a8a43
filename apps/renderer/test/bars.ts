/** Bars as in EBU Tech 3325, at three quarters and in full, with greys: what codecs and matrices get wrong. */
export const BARS = [
  [191, 191, 191],
  [191, 191, 0],
  [0, 191, 191],
  [0, 191, 0],
  [191, 0, 191],
  [191, 0, 0],
  [0, 0, 191],
  [40, 40, 40],
] as const
