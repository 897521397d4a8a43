/** A die for a number at a moment: 0 to 1, the same everywhere. */
export function die(n: number, seeded: number): number {
  let h = Math.imul(n ^ Math.imul(seeded, 0x9e3779b1), 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return ((h ^ (h >>> 16)) >>> 0) / 2 ** 32
}

/** A die that changes smoothly: 0 to 1, thrown anew at each whole number of `at`. */
export function swayingDie(at: number, seeded: number): number {
  const n = Math.floor(at)
  const t = at - n
  const k = t * t * (3 - 2 * t)
  return die(n, seeded) * (1 - k) + die(n + 1, seeded) * k
}
