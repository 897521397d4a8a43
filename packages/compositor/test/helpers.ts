import { readFileSync } from 'node:fs'
import { createEngine, type Engine } from '../src/index'

/** A fresh engine on the built kernels. */
export async function engine(): Promise<Engine> {
  return createEngine(readFileSync(new URL('../build/kernels.wasm', import.meta.url)))
}

/** A repeatable source of bytes (mulberry32). */
export function bytes(length: number, seed = 1): Uint8Array {
  const out = new Uint8Array(length)
  let a = seed
  for (let i = 0; i < length; i++) {
    a = (a + 0x6d2b79f5) | 0
    let t = Math.imul(a ^ (a >>> 15), 1 | a)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    out[i] = ((t ^ (t >>> 14)) >>> 0) & 255
  }
  return out
}

/** Largest difference of two byte arrays. */
export function largestDifference(a: ArrayLike<number>, b: ArrayLike<number>): number {
  if (a.length !== b.length) return Infinity
  let largest = 0
  for (let i = 0; i < a.length; i++) largest = Math.max(largest, Math.abs(a[i]! - b[i]!))
  return largest
}
