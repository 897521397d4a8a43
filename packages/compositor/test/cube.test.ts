import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it, onTestFinished } from 'vitest'
import type { EffectsPlan } from '@dusk/timeline'
import { cubeAt, CubeError, lutEntries, pictureEffect, PROFILES, readCube, stackColour, writeCube } from '../src/index'

const rgbOf = (...values: number[]) => Float64Array.from(values)
const seen = (cube: ReturnType<typeof readCube>, ...values: number[]) => {
  const rgb = rgbOf(...values)
  cubeAt(cube, rgb)
  return [...rgb].map((value) => Math.round(value * 1e4) / 1e4)
}
const stack: EffectsPlan['stack'] = [
  { kind: 'tone', settings: { exposure: 0.4, contrast: 20 }, strength: 1 },
  { kind: 'wheels', settings: { shadowsTint: [30, -30] as const }, strength: 0.7 },
]

describe('tables of colours in .cube files', () => {
  it('are written and read again as they were', () => {
    const { change, left } = stackColour(stack)
    expect(left).toEqual([])
    const cube = readCube(writeCube('Ember “two”\nlines', change, 17))
    expect(cube).toMatchObject({ dimensions: 3, size: 17, title: 'Ember “two” lines' })
    for (const colour of [
      [0, 0, 0],
      [0.5, 0.25, 0.75],
      [1, 1, 1],
    ]) {
      const wanted = rgbOf(...colour)
      change(wanted)
      for (const [i, value] of seen(cube, ...colour).entries()) expect(value).toBeCloseTo(wanted[i]!, 3)
    }
  })

  it('are left without what draws or has a mask, and say so', () => {
    const mask = [{ kind: 'ellipse' as const, mode: 'add' as const, settings: {} }]
    const { left } = stackColour([...stack, { kind: 'blur', settings: {}, strength: 1 }, { ...stack[0]!, mask }])
    expect(left).toEqual(['Blur', 'Light'])
  })

  it('hold curves too, a domain, comments, odd spaces and line ends', () => {
    const curve = readCube(
      '\ufeff# by hand\r\nTITLE "x"\r\n\r\nLUT_1D_SIZE 3\nDOMAIN_MIN -1 0 0\n 0 0 1\n\t.5 5e-1 0.5\n1 1 0 '.slice(1),
    )
    expect(curve).toMatchObject({ dimensions: 1, size: 3, domain: { min: [-1, 0, 0], max: [1, 1, 1] } })
    expect(seen(curve, 0, 0.25, 0.25)).toEqual([0.5, 0.25, 0.75])
    expect(seen(curve, -9, 9, 9)).toEqual([0, 1, 0])
  })

  it.each([
    ['', 0, 'missing'],
    ['LUT_3D_SIZE 200', 1, 'from 2 to 129'],
    ['LUT_3D_SIZE two', 1, '“two”'],
    ['LUT_3D_SIZE 2\nLUT_1D_SIZE 2', 2, 'twice'],
    ['0 0 0', 1, 'before LUT_'],
    ['LUT_1D_SIZE 2\n0 0 0\n0 0', 3, 'three numbers'],
    ['LUT_1D_SIZE 2\n0 0 0\nnan 0 0', 3, 'three numbers'],
    ['LUT_1D_SIZE 2\n0 0 0', 2, '1 of 2 entries'],
    ['LUT_1D_SIZE 2\n0 0 0\n1 1 1\n1 1 1', 4, 'more than the 2'],
    ['LUT_1D_SIZE 2\nDOMAIN_MIN 2 0 0\n0 0 0\n1 1 1', 4, 'below DOMAIN_MAX'],
    ['\u0000\u0001\u0002', 1, 'three numbers|before'],
    ['<html>', 1, 'before LUT_'],
  ])('are refused with the line that is wrong: %j', (text, line, words) => {
    try {
      readCube(text)
      expect.unreachable('was read')
    } catch (error) {
      expect(error).toBeInstanceOf(CubeError)
      expect((error as CubeError).line).toBe(line)
      expect((error as CubeError).message).toMatch(new RegExp(words))
    }
  })

  it('look the same in ffmpeg’s lut3d, within two values', () => {
    const dir = mkdtempSync(join(tmpdir(), 'cube-'))
    onTestFinished(() => rmSync(dir, { recursive: true, force: true }))
    const { change } = stackColour(stack)
    writeFileSync(join(dir, 'grade.cube'), writeCube('grade', change, 33))
    const [w, h] = [64, 64]
    const pixels = Uint8Array.from({ length: w * h * 3 }, (_, i) => {
      const n = Math.floor(i / 3)
      return [(n % w) * 4, Math.floor(n / w) * 4, ((n * 37) % 256) & 255][i % 3]!
    })
    writeFileSync(join(dir, 'in.rgb'), pixels)
    const raw = ['-f', 'rawvideo', '-pix_fmt', 'rgb24']
    const done = spawnSync('ffmpeg', [
      ...['-v', 'error', ...raw, '-s', `${w}x${h}`, '-i', join(dir, 'in.rgb')],
      ...['-vf', `lut3d=${join(dir, 'grade.cube')}:interp=tetrahedral`, ...raw, '-y', join(dir, 'out.rgb')],
    ])
    expect(String(done.stderr)).toBe('')
    const out = readFileSync(join(dir, 'out.rgb'))
    let most = 0
    for (let i = 0; i < pixels.length; i += 3) {
      const rgb = rgbOf(pixels[i]! / 255, pixels[i + 1]! / 255, pixels[i + 2]! / 255)
      change(rgb)
      for (let c = 0; c < 3; c++) most = Math.max(most, Math.abs(out[i + c]! - Math.min(1, Math.max(0, rgb[c]!)) * 255))
    }
    expect(most).toBeLessThanOrEqual(2)
  })

  it('act as effects once their file is there, and do nothing before', () => {
    const kind = pictureEffect('lutFile')!
    if (!('colour' in kind)) throw new Error('a colour effect')
    const invert = readCube(writeCube('n', (rgb) => rgb.forEach((value, c) => (rgb[c] = 1 - value)), 2))
    const file = 'a'.repeat(64)
    const changed = (files: (hash: string) => typeof invert | null, input = 'display') => {
      const rgb = rgbOf(0.2, 0.5, 1)
      kind.colour({ file, input }, files)(rgb)
      return [...rgb].map((value) => Math.round(value * 1000) / 1000)
    }
    expect(changed(() => null)).toEqual([0.2, 0.5, 1])
    expect(changed((hash) => (hash === file ? invert : null))).toEqual([0.8, 0.5, 0])
    expect(
      lutEntries(
        kind.colour({ file, input: 'display' }, () => invert),
        3,
      )[0],
    ).toBe(255 * 64)
  })
})

describe('flat profiles', () => {
  it('write what their standards say of black, grey and white', () => {
    // Shown white is light of 1; hybrid log-gamma puts it at 0.75, the quantiser at 0.58, film scans at 685 of 1023.
    expect(PROFILES.hybridLog.encode(1)).toBeCloseTo(0.75, 2)
    expect(PROFILES.perceptual.encode(1)).toBeCloseTo(0.5807, 3)
    expect(PROFILES.filmScan.encode(1)).toBeCloseTo(685 / 1023, 4)
    expect(PROFILES.filmScan.encode(0)).toBeCloseTo(95 / 1023, 4)
    // 18 % grey is 0.4136 in ACEScc.
    expect(PROFILES.academyLog.encode(0.18 ** (1 / 2.4))).toBeCloseTo(0.4136, 3)
    for (const { encode } of Object.values(PROFILES))
      for (let i = 1; i <= 20; i++) expect(encode(i / 20)).toBeGreaterThan(encode((i - 1) / 20))
  })
})
