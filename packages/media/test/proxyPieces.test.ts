import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { frameCount, PROXY_PIECE, type SourceMetadata } from '@dusk/timeline'
import {
  examine,
  joinProxy,
  makeProxy,
  makeProxyPiece,
  pieceCount,
  pieceRange,
  piecesFit,
  type ProxyPiece,
} from '../src/index'

const dir = mkdtempSync(join(tmpdir(), 'dusk-pieces-'))
const at = (name: string) => join(dir, name)
afterAll(() => rmSync(dir, { recursive: true, force: true }))

const FRAMES = 610
/** Grey that goes up by one a frame, round and round; the groups of pictures begin nowhere near where pieces do. */
const GREY = "nullsrc=s=64x36:r=30000/1001,geq=lum='20+mod(N,200)':cb=128:cr=128,scale=320:180"
const drawn = (frame: number) => 20 + (frame % 200)

/** Luma in the middle of each frame of a file, in order. */
function lumas(path: string): number[] {
  const filter = 'extractplanes=y,crop=1:1:160:90'
  return [...execFileSync('ffmpeg', ['-v', 'error', '-i', path, '-vf', filter, '-f', 'rawvideo', '-'])]
}

describe.each(['phone.mp4', 'camera.ts'])('the proxy of %s in pieces', (name) => {
  let metadata: SourceMetadata
  const pieces: (ProxyPiece & { path: string })[] = []

  beforeAll(async () => {
    const coded = '-c:v libx264 -preset ultrafast -qp 6 -bf 2 -g 47 -pix_fmt yuv420p -colorspace bt709'.split(' ')
    execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', GREY, '-frames:v', String(FRAMES), ...coded, at(name)])
    metadata = await examine(at(name), statSync(at(name)).size)
    // The last first: none leans on one before it.
    for (let n = pieceCount(metadata) - 1; n >= 0; n--) {
      const path = at(`${name}-${n}.mp4`)
      pieces.unshift({ ...(await makeProxyPiece(at(name), metadata, n, path, { sampled: [1, 300, 609] })), path })
    }
  })

  it('holds every frame in its place, wherever a piece begins', () => {
    expect(frameCount(metadata.table!)).toBe(FRAMES)
    expect(pieces.map((piece) => piece.frames)).toEqual([PROXY_PIECE, PROXY_PIECE, FRAMES - 2 * PROXY_PIECE])
    for (const [n, piece] of pieces.entries())
      for (const [i, luma] of lumas(piece.path).entries())
        expect(Math.abs(luma - drawn(pieceRange(metadata, n).first + i)), `piece ${n}, frame ${i}`).toBeLessThan(2)
  })

  it('is joined to the same frames as one made in one go, with the same hashes', async () => {
    expect(piecesFit(metadata, pieces)).toBe(true)
    await joinProxy(pieces, at('whole.mp4'), at('list.txt'))
    const whole = await makeProxy(at(name), metadata, at('one-go.mp4'), { sampled: [1, 300, 609] })
    const joined = lumas(at('whole.mp4'))
    expect(joined).toHaveLength(FRAMES)
    for (const [frame, luma] of lumas(at('one-go.mp4')).entries())
      expect(Math.abs(luma - joined[frame]!), `frame ${frame}`).toBeLessThan(2)
    for (const [frame, hash] of whole.hashes)
      expect(pieces[Math.floor(frame / PROXY_PIECE)]!.hashes[frame], `frame ${frame}`).toBe(hash)
  })

  it('does not fit where a neighbour found another frame, or frames are missing', () => {
    const off = pieces.map((piece, n) =>
      n === 1 ? { ...piece, hashes: { ...piece.hashes, [PROXY_PIECE]: pieces[1]!.hashes[300]! } } : piece,
    )
    expect(piecesFit(metadata, off)).toBe(false)
    expect(piecesFit(metadata, [pieces[0]!, { ...pieces[1]!, frames: 239 }, pieces[2]!])).toBe(false)
  })

  it('is made in one go where it is short, has to be counted through, or is woven', () => {
    expect(pieceCount(metadata)).toBe(3)
    expect(pieceCount({ ...metadata, seekable: false })).toBe(1)
    expect(pieceCount({ ...metadata, filters: ['bwdif=mode=send_frame'] })).toBe(1)
    const two = { kind: 'constant' as const, rate: { num: 25, den: 1 }, count: 2 * PROXY_PIECE }
    expect(pieceCount({ ...metadata, table: two })).toBe(1)
    expect(pieceRange(metadata, 2)).toEqual({ first: 480, end: FRAMES })
  })
})
