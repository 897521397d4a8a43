import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { createCanvas } from '@napi-rs/canvas'
import { describe, expect, it } from 'vitest'
import { Compositor, createEngine, Picture } from '../../packages/compositor/src/index'
import type { FramePlan } from '@dusk/timeline'
import { greenPresenter } from '../src/scenes/people'

const { width, height } = greenPresenter
const engine = await createEngine(
  readFileSync(new URL('../../packages/compositor/build/kernels.wasm', import.meta.url)),
)

/** The presenter, with the green cloth or cut out exactly as drawn. */
function drawn(cloth: boolean): Uint8ClampedArray {
  const canvas = createCanvas(width, height)
  const context = canvas.getContext('2d')
  let first = true
  // The cloth is the first thing that is painted.
  const sheer = new Proxy(context, {
    get(target, key) {
      const value = Reflect.get(target, key) as unknown
      if (key === 'fillRect' && !cloth)
        return (...args: [number, number, number, number]) => {
          if (!first) target.fillRect(...args)
          first = false
        }
      return typeof value === 'function' ? (value as () => unknown).bind(target) : value
    },
    set: (target, key, value) => Reflect.set(target, key, value),
  })
  greenPresenter.draw((cloth ? context : sheer) as never, 1.7)
  return context.getImageData(0, 0, width, height).data
}

/** As a camera would have written it: 4:2:0, squeezed, with noise. */
function filmed(pixels: Uint8ClampedArray, noise: number): Uint8Array {
  const raw = ['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${width}x${height}`]
  const run = (args: string[], input: Uint8Array) => {
    const done = spawnSync('ffmpeg', ['-v', 'error', ...args], { input, maxBuffer: 1 << 28 })
    if (done.status !== 0) throw new Error(String(done.stderr))
    return new Uint8Array(done.stdout)
  }
  const video = ['-c:v', 'libx264', '-crf', '24', '-pix_fmt', 'yuv420p', '-f', 'matroska', '-']
  const file = run([...raw, '-i', '-', '-vf', `noise=alls=${noise}:allf=t`, ...video], new Uint8Array(pixels))
  return run(['-i', '-', '-f', 'rawvideo', '-pix_fmt', 'rgba', '-'], file)
}

/** Coverage that the key finds, 0 to 255 a pixel. */
function keyed(pixels: ArrayLike<number>, settings: Record<string, never | number | string>): Uint8Array {
  const picture = Picture.rgba(engine, width, height)
  picture.bytes().set(pixels)
  const compositor = new Compositor(engine)
  compositor.inspecting = true
  const layer = {
    ...{ kind: 'picture' as const, assetId: 'a', time: 0, width, height, alpha: true, opacity: 1 },
    ...{ matrix: [1, 0, 0, 1, 0, 0] as const },
    effects: {
      stack: [{ kind: 'keyColour', settings: { ...settings, view: 'matte' }, strength: 1 }],
      scale: 1,
      time: 0,
    },
  }
  const plan: FramePlan = { width, height, background: '#000000', layers: [layer], passThrough: false }
  const matte = compositor.compose(plan, [picture]).pixels()
  const cover = Uint8Array.from({ length: width * height }, (_, i) => matte[i * 4]!)
  compositor.release()
  picture.release()
  return cover
}

describe('the green screen', () => {
  const truth = drawn(false)
  const off = (cover: Uint8Array) => {
    let sum = 0
    for (let i = 0; i < cover.length; i++) sum += Math.abs(cover[i]! - truth[i * 4 + 3]!)
    return sum / cover.length / 255
  }

  it('finds the presenter as drawn, at its defaults: 1 % of the matte off at most', () => {
    const error = off(keyed(drawn(true), { colour: '#28b55a' }))
    console.log(`matte error: ${(error * 100).toFixed(2)} % as drawn`)
    expect(error).toBeLessThan(0.01)
  })

  it('finds the presenter in noisy 4:2:0 footage, with the ground cleaned', () => {
    const noisy = filmed(drawn(true), 14)
    const error = off(keyed(noisy, { colour: '#28b55a', tolerance: 30, softness: 26, specks: 2, holes: 2, feather: 2 }))
    console.log(`matte error: ${(error * 100).toFixed(2)} % filmed`)
    expect(error).toBeLessThan(0.02)
    // Nothing of the cloth is left, and nothing of the presenter is lost.
    const cover = keyed(noisy, { colour: '#28b55a', tolerance: 30, softness: 26, specks: 2, holes: 2, feather: 2 })
    const at = (x: number, y: number) => cover[y * width + x]!
    for (const [x, y] of [
      [40, 40],
      [200, 600],
      [1200, 100],
    ] as const)
      expect(at(x, y), `${x}, ${y}`).toBe(0)
    expect(at(600, 300)).toBe(255)
    expect(at(600, 600)).toBe(255)
  })
})
