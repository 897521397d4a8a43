import type { ColourChange } from '../define'
import { eachEntry } from './lut'
import { clamp } from './tools'

/** A table of colours as a .cube file holds it (Cube LUT specification 1.0). */
export interface Cube {
  title: string
  /** 1: a curve a channel. 3: a cube. */
  dimensions: 1 | 3
  /** Entries along a side. */
  size: number
  domain: { min: readonly [number, number, number]; max: readonly [number, number, number] }
  /** Red, green and blue of each entry, red running fastest. */
  values: Float32Array
}

/** Largest file that is read, and sizes that are taken. */
export const CUBE_LIMITS = { bytes: 80 * 1024 ** 2, least: 2, most3: 129, most1: 65_536 } as const

/** A file that is no table, in words: which line, what is wrong. */
export class CubeError extends Error {
  constructor(
    readonly line: number,
    words: string,
  ) {
    super(`Line ${line}: ${words}`)
    this.name = 'CubeError'
  }
}

/** Reads a .cube file. @throws {CubeError} with the number of the line that can't be read */
export function readCube(text: string): Cube {
  let [title, dimensions, size, line]: [string, 1 | 3 | 0, number, number] = ['', 0, 0, 0]
  const domain = { min: [0, 0, 0], max: [1, 1, 1] }
  let values = new Float32Array(0)
  let filled = 0
  let from = 0
  while (from < text.length) {
    const to = text.indexOf('\n', from)
    const row = text.slice(from, to < 0 ? text.length : to).trim()
    from = to < 0 ? text.length : to + 1
    line++
    if (row === '' || row.startsWith('#')) continue
    const words = row.split(/\s+/)
    const [key] = words as [string]
    if (/^[A-Z]/i.test(key) && !/^(nan|inf)/i.test(key)) {
      if (filled > 0) throw new CubeError(line, `“${key}” has to stand before the table.`)
      if (key === 'TITLE') title = row.slice(5).trim().replace(/^"|"$/g, '')
      else if (key === 'LUT_3D_SIZE' || key === 'LUT_1D_SIZE') {
        if (size > 0) throw new CubeError(line, 'the size is said twice.')
        dimensions = key === 'LUT_3D_SIZE' ? 3 : 1
        size = Number(words[1])
        const most = dimensions === 3 ? CUBE_LIMITS.most3 : CUBE_LIMITS.most1
        if (!Number.isInteger(size) || size < CUBE_LIMITS.least || size > most)
          throw new CubeError(line, `a size from ${CUBE_LIMITS.least} to ${most} is wanted, not “${words[1] ?? ''}”.`)
        values = new Float32Array((dimensions === 3 ? size ** 3 : size) * 3)
      } else if (key === 'DOMAIN_MIN') domain.min = numbers(words.slice(1), line)
      else if (key === 'DOMAIN_MAX') domain.max = numbers(words.slice(1), line)
      else if (/^LUT_(1D|3D)_INPUT_RANGE$/.test(key)) {
        const [low, high] = [Number(words[1]), Number(words[2])]
        if (!(low < high)) throw new CubeError(line, 'two numbers are wanted, the smaller first.')
        domain.min.fill(low)
        domain.max.fill(high)
      } else throw new CubeError(line, `“${key.slice(0, 40)}” is not known in a .cube file.`)
      continue
    }
    if (size === 0) throw new CubeError(line, 'numbers before LUT_1D_SIZE or LUT_3D_SIZE.')
    if (filled >= values.length) throw new CubeError(line, `more than the ${values.length / 3} entries that were said.`)
    values.set(numbers(words, line), filled)
    filled += 3
  }
  if (dimensions === 0) throw new CubeError(line, 'LUT_1D_SIZE or LUT_3D_SIZE is missing: this is no .cube file.')
  if (filled < values.length)
    throw new CubeError(line, `the file ends after ${filled / 3} of ${values.length / 3} entries.`)
  for (let c = 0; c < 3; c++)
    if (!(domain.min[c]! < domain.max[c]!)) throw new CubeError(line, 'DOMAIN_MIN has to lie below DOMAIN_MAX.')
  return { title: title.slice(0, 120), dimensions, size, domain: domain as unknown as Cube['domain'], values }
}

function numbers(words: readonly string[], line: number): [number, number, number] {
  const found = words.map(Number)
  if (found.length !== 3 || !found.every((value) => Number.isFinite(value) && Math.abs(value) < 1e6))
    throw new CubeError(line, `three numbers are wanted, not “${words.join(' ').slice(0, 40)}”.`)
  return found as [number, number, number]
}

/** Changes a colour by a table: straight between entries, in tetrahedra. */
export function cubeAt(cube: Cube, rgb: Float64Array): void {
  const { size, values, domain, dimensions } = cube
  const last = size - 1
  const at = [0, 0, 0]
  const part = [0, 0, 0]
  for (let c = 0; c < 3; c++) {
    const place = clamp((rgb[c]! - domain.min[c]!) / (domain.max[c]! - domain.min[c]!)) * last
    at[c] = Math.min(Math.floor(place), last - 1)
    part[c] = place - at[c]!
  }
  if (dimensions === 1) {
    for (let c = 0; c < 3; c++) {
      const low = values[at[c]! * 3 + c]!
      rgb[c] = low + (values[(at[c]! + 1) * 3 + c]! - low) * part[c]!
    }
    return
  }
  const steps = [3, size * 3, size * size * 3]
  let place = at[0]! * steps[0]! + at[1]! * steps[1]! + at[2]! * steps[2]!
  // The longest way first: six tetrahedra fill the cell.
  const order = [0, 1, 2].sort((a, b) => part[b]! - part[a]!)
  const out = [values[place]!, values[place + 1]!, values[place + 2]!]
  for (const axis of order) {
    const next = place + steps[axis]!
    for (let c = 0; c < 3; c++) out[c]! += (values[next + c]! - values[place + c]!) * part[axis]!
    place = next
  }
  for (let c = 0; c < 3; c++) rgb[c] = out[c]!
}

/** A colour change as a .cube file of `size` entries a side. */
export function writeCube(title: string, change: ColourChange, size: number): string {
  const lines = [`TITLE "${title.replace(/["\r\n]/g, ' ').slice(0, 120)}"`, `LUT_3D_SIZE ${size}`]
  // Beyond black and white too: what is cut off between two entries is cut off where it should be.
  eachEntry(change, size, (rgb) => lines.push(Array.from(rgb, (value) => value.toFixed(6)).join(' ')))
  return `${lines.join('\n')}\n`
}
