import { describe, expect, it } from 'vitest'
import { engine as freshEngine } from './helpers'

const engine = await freshEngine()

/** Kernels against the same thing done slowly and plainly, in doubles; sizes are odd so that every tail is met. */
const [W, H] = [53, 27]
const N = W * H

/** Premultiplied pixels, some solid, some clear, most in between. */
function pixels(seed: number): Uint8Array {
  let state = seed * 2654435761
  const next = () => ((state = (Math.imul(state ^ (state >>> 15), 2246822519) + 0x9e3779b9) | 0) >>> 0) / 2 ** 32
  const bytes = new Uint8Array(N * 4)
  for (let i = 0; i < N; i++) {
    const kind = next()
    const alpha = kind < 0.3 ? 255 : kind < 0.4 ? 0 : Math.floor(next() * 256)
    for (let c = 0; c < 3; c++) bytes[i * 4 + c] = Math.round((next() * 255 * alpha) / 255)
    bytes[i * 4 + 3] = alpha
  }
  return bytes
}

/** Puts bytes into the engine's memory, runs, and gives back a block of it. */
function withBlocks(blocks: readonly Uint8Array[], run: (...addresses: number[]) => void, read = blocks.length - 1) {
  const addresses = blocks.map((bytes) => {
    const address = engine.heap.allocate(bytes.length)
    engine.heap.bytes(address, bytes.length).set(bytes)
    return address
  })
  run(...addresses)
  const result = engine.heap.bytes(addresses[read]!, blocks[read]!.length).slice()
  addresses.forEach((address) => engine.heap.release(address))
  return result
}

/** Largest difference to what is expected, and where. */
function expectClose(found: Uint8Array, expected: (i: number, c: number) => number, most = 1): void {
  for (let i = 0; i < N; i++)
    for (let c = 0; c < 4; c++) {
      const [is, ought] = [found[i * 4 + c]!, expected(i, c)]
      if (Math.abs(is - ought) > most)
        expect.fail(`pixel ${i % W}, ${Math.floor(i / W)}, channel ${c}: ${is}, not ${ought}`)
    }
}

const [A, B] = [pixels(1), pixels(2)]
const empty = () => new Uint8Array(N * 4)
const k = engine.kernels

describe('mixing kernels', () => {
  it('dissolve, thin, tint and go towards a colour as far as each pixel is solid', () => {
    for (const t of [0, 0.2, 0.5, 0.93, 1]) {
      expectClose(
        withBlocks([A, B, empty()], (a, b, d) => k.dissolve(a, b, d, N, Math.round(t * 32_768))),
        (i, c) => A[i * 4 + c]! * (1 - t) + B[i * 4 + c]! * t,
      )
      expectClose(
        withBlocks([A.slice()], (a) => k.thin(a, N, t)),
        (i, c) => A[i * 4 + c]! * t,
      )
      const colour = [200, 90, 10, 255]
      expectClose(
        withBlocks([A.slice()], (a) => k.towards(a, N, 200, 90, 10, t)),
        (i, c) => A[i * 4 + c]! * (1 - t) + ((colour[c]! * A[i * 4 + 3]!) / 255) * t,
      )
      expectClose(
        withBlocks([A, empty()], (a, d) => k.tint(a, d, N, 200, 90, 10, t)),
        (i, c) => ((colour[c]! * A[i * 4 + 3]!) / 255) * t,
      )
    }
    const light = [60, -80, 20, 0]
    expectClose(
      withBlocks([A.slice()], (a) => k.addLight(a, N, 60, -80, 20)),
      (i, c) => Math.min(A[i * 4 + 3]!, Math.max(0, A[i * 4 + c]! + (light[c]! * A[i * 4 + 3]!) / 255)),
    )
  })

  it('mix by a map with a soft border and a coloured edge on it', () => {
    const map = new Uint16Array(N).map((_, i) => (i * 40_503) & 0xffff)
    const colour = [255, 200, 100, 255]
    for (const [threshold, steep, edge] of [
      [0.5, 2, 0],
      [0.3, 6, 0.8],
      [0, 4, 0],
      [1.3, 3, 0.5],
    ] as const) {
      const found = withBlocks([A, B, new Uint8Array(map.buffer), empty()], (a, b, m, d) =>
        k.mixByMap(a, b, m, d, N, threshold, steep, 255, 200, 100, edge),
      )
      expectClose(found, (i, c) => {
        const w = Math.min(1, Math.max(0, (threshold - map[i]! / 65_535) * steep))
        const at = (channel: number) => A[i * 4 + channel]! + (B[i * 4 + channel]! - A[i * 4 + channel]!) * w
        const share = 4 * w * (1 - w) * edge
        return at(c) + ((colour[c]! * at(3)) / 255 - at(c)) * share
      })
    }
  })

  it('enlarge to twice the size by going straight between pixels', () => {
    for (const [w, h] of [
      [53, 27],
      [10, 6],
      [4, 3],
      [2, 2],
      [1, 1],
    ] as const) {
      const small = A.slice(0, w * h * 4)
      // A byte behind it says whether more is written than there is room for.
      const found = withBlocks([small, new Uint8Array(w * h * 16 + 1).fill(7)], (a, d) => {
        k.enlarge(a, w, h, d, 0, h)
        k.enlarge(a, w, h, d, h, 2 * h)
      })
      expect(found.at(-1)).toBe(7)
      const pixel = (x: number, y: number, c: number) =>
        small[(Math.min(Math.max(y, 0), h - 1) * w + Math.min(Math.max(x, 0), w - 1)) * 4 + c]!
      for (let y = 0; y < 2 * h; y++)
        for (let x = 0; x < 2 * w; x++)
          for (let c = 0; c < 4; c++) {
            const [u, v] = [x / 2 - 0.25, y / 2 - 0.25]
            const [l, t] = [Math.floor(u), Math.floor(v)]
            const [fu, fv] = [u - l, v - t]
            const above = pixel(l, t, c) * (1 - fu) + pixel(l + 1, t, c) * fu
            const below = pixel(l, t + 1, c) * (1 - fu) + pixel(l + 1, t + 1, c) * fu
            const ought = above * (1 - fv) + below * fv
            expect(Math.abs(found[(y * 2 * w + x) * 4 + c]! - ought), `${w} × ${h}: ${x} ${y} ${c}`).toBeLessThan(0.51)
          }
    }
  })

  it('lay one over another at any opacity', () => {
    for (const opacity of [0, 0.35, 1])
      expectClose(
        withBlocks([A, B.slice()], (a, b) => k.blendRow(a, b, N, Math.round(opacity * 32_768))),
        (i, c) => A[i * 4 + c]! * opacity + B[i * 4 + c]! * (1 - (A[i * 4 + 3]! * opacity) / 255),
      )
  })

  it('add up many pictures and take their average', () => {
    const sums = new Uint8Array(N * 16)
    const found = withBlocks([A, B, sums, empty()], (a, b, s, d) => {
      for (const picture of [a, b, a]) k.addUp(picture, s, N * 4)
      k.average(s, d, N * 4, 3)
    })
    expectClose(found, (i, c) => (A[i * 4 + c]! * 2 + B[i * 4 + c]!) / 3)
  })
})

describe('kernels that move pixels', () => {
  const at = (x: number, y: number, c: number) =>
    A[(Math.min(Math.max(y, 0), H - 1) * W + Math.min(Math.max(x, 0), W - 1)) * 4 + c]!

  it('take red and blue from elsewhere, never more than the pixel is solid', () => {
    for (const [rx, ry, bx, by] of [
      [3, 0, -3, 0],
      [-7, 2, 5, -4],
      [0, 0, 0, 0],
      [60, 0, -60, 40],
    ] as const) {
      const found = withBlocks([A, empty()], (a, d) => k.shiftColours(a, d, W, H, rx, ry, bx, by))
      expectClose(
        found,
        (i, c) => {
          const [x, y] = [i % W, Math.floor(i / W)]
          if (c === 0) return Math.min(at(x - rx, y - ry, 0), at(x, y, 3))
          return c === 2 ? Math.min(at(x - bx, y - by, 2), at(x, y, 3)) : at(x, y, c)
        },
        0,
      )
    }
  })

  it('fill cells with the colour at their middle', () => {
    for (const size of [1, 4, 7, 100]) {
      const middle = (value: number, end: number) =>
        Math.min(Math.floor(value / size) * size + Math.floor(size / 2), end - 1)
      expectClose(
        withBlocks([A, empty()], (a, d) => k.pixelate(a, d, W, H, size)),
        (i, c) => at(middle(i % W, W), middle(Math.floor(i / W), H), c),
        0,
      )
    }
  })

  it('blur along rows and columns with edge pixels repeated', () => {
    for (const radius of [1, 5, 40]) {
      const mean = (value: (offset: number) => number) =>
        Array.from({ length: 2 * radius + 1 }, (_, n) => value(n - radius)).reduce((a, b) => a + b) / (2 * radius + 1)
      expectClose(
        withBlocks([A, empty()], (a, d) => k.blurRows(a, d, W, H, radius)),
        (i, c) => mean((o) => at((i % W) + o, Math.floor(i / W), c)),
      )
      const columns = withBlocks([A, new Uint8Array(W * 16), empty()], (a, s, d) =>
        k.blurColumns(a, d, W, H, radius, s),
      )
      expectClose(columns, (i, c) => mean((o) => at(i % W, Math.floor(i / W) + o, c)))
    }
  })

  it('bend by a grid as straight interpolation between its corners says', () => {
    const cell = 8
    const columns = Math.ceil(W / cell) + 1
    const rows = Math.ceil(H / cell) + 1
    const look = (x: number, y: number) => [3 + 0.8 * x + 0.1 * y, 2 + 0.7 * y - 0.02 * x + 2, 0.4 + 0.01 * x]
    const grid = new Float32Array(columns * rows * 3)
    for (let j = 0, n = 0; j < rows; j++)
      for (let i = 0; i < columns; i++, n += 3) grid.set(look(i * cell, j * cell), n)
    const solid = A.map((value, i) => (i % 4 === 3 ? 255 : value))
    const found = withBlocks([solid, new Uint8Array(grid.buffer), empty()], (a, g, d) =>
      k.drawMesh(a, W, H, d, W, H, g, cell, columns, 1, 1, 0, H),
    )
    expectClose(
      found,
      (i, c) => {
        const [u, v, bright] = look((i % W) + 0.5, Math.floor(i / W) + 0.5) as [number, number, number]
        const [su, sv] = [Math.min(Math.max(u - 0.5, 0), W - 1), Math.min(Math.max(v - 0.5, 0), H - 1)]
        const [iu, iv] = [Math.floor(su), Math.floor(sv)]
        const pick = (x: number, y: number) => solid[(Math.min(y, H - 1) * W + Math.min(x, W - 1)) * 4 + c]!
        const across = (y: number) => pick(iu, y) + (pick(iu + 1, y) - pick(iu, y)) * (su - iu)
        const value = across(iv) + (across(iv + 1) - across(iv)) * (sv - iv)
        return c === 3 ? value : value * Math.min(1, bright)
      },
      2,
    )
  })
})
