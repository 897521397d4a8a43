import { createReadStream, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { describe, expect, it } from 'vitest'
import { encodeSound, runTool, ToolError } from '../src/index'
import { ffmpeg, folder } from './helpers'

const dir = folder()
const at = (name: string) => join(dir, name)
const samplesOf = async (path: string) => {
  const bytes = await runTool('ffmpeg', [...'-v error -i'.split(' '), path, ...'-f s24le -ac 2 -'.split(' ')])
  return Array.from({ length: bytes.length / 3 }, (_, i) => bytes.readIntLE(i * 3, 3))
}

describe('a sound saved as a file', () => {
  it('is the same to the bit as FLAC, with its length in its head', async () => {
    ffmpeg('-f lavfi -i sine=440:d=2:r=48000 -ac 2 -c:a pcm_s24le', at('tone.wav'))
    await encodeSound(createReadStream(at('tone.wav')), 'flac', at('tone.flac'))
    expect(await samplesOf(at('tone.flac'))).toEqual(await samplesOf(at('tone.wav')))
    // STREAMINFO: the last 36 bits before the checksum count the samples (RFC 9639 § 8.2).
    expect(readFileSync(at('tone.flac')).readUInt32BE(4 + 4 + 14)).toBe(96_000)
  })

  it('is about the same as MP3', async () => {
    await encodeSound(createReadStream(at('tone.wav')), 'mp3', at('tone.mp3'))
    const [there, back] = [await samplesOf(at('tone.wav')), await samplesOf(at('tone.mp3'))]
    expect(Math.abs(back.length - there.length)).toBeLessThan(48_000 * 0.1 * 2)
    const level = (all: number[]) => Math.sqrt(all.reduce((sum, value) => sum + value * value, 0) / all.length)
    expect(level(back) / level(there)).toBeCloseTo(1, 1)
  })

  it('is refused when it is no WAV file, or stopped', async () => {
    const other = Readable.from([Buffer.from('#EXTM3U\nfile:///etc/hostname\n')])
    await expect(encodeSound(other, 'mp3', at('no.mp3'))).rejects.toBeInstanceOf(ToolError)
    const endless = new Readable({ read() {} })
    endless.push(readFileSync(at('tone.wav')).subarray(0, 1000))
    const abort = new AbortController()
    const run = encodeSound(endless, 'mp3', at('late.mp3'), { signal: abort.signal })
    setTimeout(() => abort.abort(), 50)
    await expect(run).rejects.toThrow('abort')
    endless.destroy()
  })
})
