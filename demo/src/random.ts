/** Repeatable random numbers from 0 to 1 (mulberry32). */
export function random(seed: number): () => number {
  let a = seed
  return () => {
    a = (a + 0x6d2b79f5) | 0
    let t = Math.imul(a ^ (a >>> 15), 1 | a)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

/** A smooth wander between −1 and 1 made of a few sines. */
export function wander(t: number, seed: number): number {
  return (
    0.55 * Math.sin(t * 1.3 + seed * 7.1) + 0.3 * Math.sin(t * 2.9 + seed * 3.7) + 0.15 * Math.sin(t * 5.3 + seed * 1.9)
  )
}
