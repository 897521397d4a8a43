import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { TICKS_PER_SECOND } from '@dusk/timeline'
import { FORMATS } from './formats/list'
import { MORE_FORMATS, REFUSED } from './formats/more'
import { tryFormat, tryRefused } from './formats/try'

const dir = mkdtempSync(join(tmpdir(), 'dusk-formats-'))
afterAll(() => rmSync(dir, { recursive: true, force: true }))

/** Of moving pictures the ones with a trap of their own; the rest is read by `./dusk test --long`. */
const QUICK = new Set(
  'camera.mp4 phone.mov web.webm short-gop.ts varying.mp4 anamorphic.mp4 hdr.mp4 loop.gif'.split(' '),
)
const tried = process.env.DUSK_LONG
  ? [...FORMATS, ...MORE_FORMATS]
  : FORMATS.filter(({ name, expect: { kind } }) => kind !== 'video' || QUICK.has(name))

describe('files in common use', () => {
  it.each(tried)('$name ($words) is read in as it is', async (format) => {
    const { asset, metadata, samples, frames } = await tryFormat(format, dir)
    const { kind, width, height, channels, alpha, variable, seconds = 2, note } = format.expect
    expect(asset.kind).toBe(kind)
    if (width) expect(asset.picture!.width).toBe(width)
    if (height) expect(asset.picture!.height).toBe(height)
    if (alpha) expect(asset.picture!.alpha).toBe(true)
    if (variable) expect(asset.picture!.variable).toBe(true)
    expect(asset.sounds[0]?.channels).toBe(channels)
    // Give or take the frame that a codec pads.
    if (kind !== 'still') expect(Math.abs(asset.length / TICKS_PER_SECOND - seconds)).toBeLessThan(0.12)
    if (channels) expect(Math.abs(samples / 48_000 - 2)).toBeLessThan(0.12)
    if (note) expect(metadata.notes.join(' ')).toContain(note)
    // What is sought is what the frame table says.
    if (kind === 'video') expect(frames.length).toBeGreaterThan(3)
    const row = (key: 'sought' | 'wanted') => frames.map((entry) => `${entry.frame}: ${entry[key]}`)
    expect(row('sought')).toEqual(row('wanted'))
    // Containers may hold the first picture longer, and filters halve the rate, but none may be far from its time.
    for (const { wanted, due } of frames) expect(Math.abs(wanted - due)).toBeLessThanOrEqual(2)
  })
})

describe('files that are not read', () => {
  it.each(REFUSED)('$name is called by its name, with what to do about it', async (refused) => {
    const words = await tryRefused(refused, dir)
    expect(words).toContain(refused.words)
    expect(words).toMatch(/\. |can be read/)
  })
})
