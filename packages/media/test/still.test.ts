import { execFileSync } from 'node:child_process'
import { readFileSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { beforeAll, describe, expect, it } from 'vitest'
import { decodeStill, examine, makeStillTile, readPng, readStillInfo, stillFormat, stillToPng } from '../src/index'
import { withRotation } from './heic'
import { ffmpeg, folder } from './helpers'

const dir = folder()
const at = (name: string) => join(dir, name)
const [W, H] = [120, 80]

/** Four fields of one colour each, so that every turn and mirroring can be told from every other. */
const FIELDS = { red: [220, 40, 40], green: [40, 200, 60], blue: [50, 70, 220], white: [235, 235, 235] } as const
type Field = keyof typeof FIELDS

/** The upright picture: red and green above, blue and white below. */
function upright(): Buffer {
  const pixels = Buffer.alloc(W * H * 3)
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const field: Field = y < H / 2 ? (x < W / 2 ? 'red' : 'green') : x < W / 2 ? 'blue' : 'white'
      pixels.set(FIELDS[field], (y * W + x) * 3)
    }
  return pixels
}

/** How the sensor holds a picture that EXIF orientation n stands upright: turned in degrees clockwise, mirrored. */
const STORED: Record<number, { rotation: number; mirror: boolean }> = {
  1: { rotation: 0, mirror: false },
  2: { rotation: 0, mirror: true },
  3: { rotation: 180, mirror: false },
  4: { rotation: 180, mirror: true },
  5: { rotation: 90, mirror: true },
  6: { rotation: 270, mirror: false },
  7: { rotation: 270, mirror: true },
  8: { rotation: 90, mirror: false },
}

async function stored(orientation: number, format: 'jpeg' | 'webp' | 'tiff', name: string): Promise<void> {
  const { rotation, mirror } = STORED[orientation]!
  const raw = { raw: { width: W, height: H, channels: 3 as const } }
  const turned = await sharp(upright(), raw).rotate(rotation).png().toBuffer()
  const image = mirror ? sharp(await sharp(turned).flop().png().toBuffer()) : sharp(turned)
  const tagged = image.withMetadata({ orientation })
  if (format === 'jpeg') await tagged.jpeg({ quality: 95, chromaSubsampling: '4:4:4' }).toFile(at(name))
  else if (format === 'webp') await tagged.webp({ lossless: true }).toFile(at(name))
  else await tagged.tiff({ compression: 'none' }).toFile(at(name))
}

/** Which field a pixel belongs to, by the nearest colour. */
function fieldAt(pixels: Uint8Array, width: number, x: number, y: number): Field {
  const i = (y * width + x) * 4
  const distance = ([r, g, b]: readonly number[]) =>
    Math.abs(pixels[i]! - r!) + Math.abs(pixels[i + 1]! - g!) + Math.abs(pixels[i + 2]! - b!)
  return (Object.keys(FIELDS) as Field[]).reduce((a, b) => (distance(FIELDS[b]) < distance(FIELDS[a]) ? b : a))
}

async function expectUpright(name: string): Promise<void> {
  const metadata = await examine(at(name), statSync(at(name)).size)
  expect(metadata).toMatchObject({ kind: 'still', width: W, height: H })
  const full = await decodeStill(at(name), metadata.stillFormat!)
  writeFileSync(at('preview.png'), await stillToPng(at(name), metadata.stillFormat!, 60))
  const small = await readPng(at('preview.png'))
  expect([small.width, small.height]).toEqual([60, 40])
  for (const { pixels, width, height } of [full, small]) {
    const [left, right, top, bottom] = [width >> 2, (width * 3) >> 2, height >> 2, (height * 3) >> 2]
    const found = [fieldAt(pixels, width, left, top), fieldAt(pixels, width, right, top)]
    found.push(fieldAt(pixels, width, left, bottom), fieldAt(pixels, width, right, bottom))
    expect(found).toEqual(['red', 'green', 'blue', 'white'])
  }
}

describe('pictures as cameras hold them', () => {
  for (const format of ['jpeg', 'webp', 'tiff'] as const)
    for (const orientation of [1, 2, 3, 4, 5, 6, 7, 8])
      it(`stands ${format} with EXIF orientation ${orientation} upright`, async () => {
        await stored(orientation, format, 'camera')
        await expectUpright('camera')
      })

  it('takes the first of a burst in one HEIC file, and says how many there are', async () => {
    for (const [name, colour] of [
      ['first.jpg', { r: 200, g: 40, b: 40 }],
      ['second.jpg', { r: 40, g: 40, b: 200 }],
    ] as const)
      await sharp({ create: { width: 64, height: 48, channels: 3, background: colour } })
        .jpeg()
        .toFile(at(name))
    execFileSync('heif-enc', ['-q', '90', '-o', at('burst.heic'), at('first.jpg'), at('second.jpg')], {
      stdio: 'ignore',
    })
    const info = await readStillInfo(at('burst.heic'), 'heic')
    expect(info).toMatchObject({ width: 64, height: 48, notes: ['Holds 2 pictures; the first is taken.'] })
    const { pixels } = await decodeStill(at('burst.heic'), 'heic')
    expect(pixels[0]!).toBeGreaterThan(pixels[2]! + 100)
  })

  it('stands HEIC upright, by its own turn and not by EXIF as well', async () => {
    for (const turns of [0, 1, 2, 3]) {
      const raw = { raw: { width: W, height: H, channels: 3 as const } }
      // Phones write both; only the file's own turn counts (ISO/IEC 23008-12 Annex A).
      await sharp(upright(), raw)
        .rotate(turns * 90)
        .withMetadata({ orientation: [1, 8, 3, 6][turns]! })
        .jpeg({ quality: 95 })
        .toFile(at('phone.jpg'))
      execFileSync('heif-enc', ['-q', '90', '-o', at('plain.heic'), at('phone.jpg')], { stdio: 'ignore' })
      writeFileSync(at('phone.heic'), withRotation(readFileSync(at('plain.heic')), turns))
      expect(await stillFormat(at('phone.heic'))).toBe('heic')
      await expectUpright('phone.heic')
    }
  })

  it('brings wide colours to the working space', async () => {
    // Full green of Display P3 lies outside sRGB: it is held at its edge. A mild one becomes stronger in numbers.
    const raw = { raw: { width: 16, height: 16, channels: 3 as const } }
    const mild = await sharp(Buffer.alloc(16 * 16 * 3, Buffer.from([120, 180, 120])), raw)
      .withIccProfile('p3')
      .png()
      .toBuffer()
    writeFileSync(at('p3.png'), mild)
    const raw3 = await sharp(mild).metadata()
    expect(raw3.hasProfile).toBe(true)
    const { pixels } = await decodeStill(at('p3.png'), 'png')
    // There and back: sharp converted the sRGB values to P3 when it wrote them, ours come out again.
    for (const [i, value] of [120, 180, 120].entries()) expect(Math.abs(pixels[i]! - value)).toBeLessThanOrEqual(2)
    const kept = await sharp(mild, { ignoreIcc: true }).raw().toBuffer()
    expect(Math.abs(kept[0]! - 120)).toBeGreaterThan(3)
  })

  it('keeps transparency, spreads grey, takes 16 bits as 8', async () => {
    ffmpeg('-f lavfi -i', 'color=c=red@0.5:s=50x30,format=rgba', '-frames:v', '1', at('card.png'))
    const metadata = await examine(at('card.png'), statSync(at('card.png')).size)
    expect(metadata).toMatchObject({ width: 50, height: 30, alpha: true, notes: [] })
    const { pixels } = await decodeStill(at('card.png'), 'png')
    for (const [i, value] of [255, 0, 0, 128].entries()) expect(Math.abs(pixels[i]! - value)).toBeLessThanOrEqual(2)
    const tile = await makeStillTile(at('card.png'), { ...metadata, format: 'png', width: 50, height: 30 })
    expect(tile).toMatchObject({ type: 'png', strip: { tileHeight: 144, tileWidth: 240 } })

    ffmpeg('-f lavfi -i color=c=gray:s=20x10 -frames:v 1 -pix_fmt gray16be', at('grey.png'))
    const grey = await decodeStill(at('grey.png'), 'png')
    expect(grey.pixels).toHaveLength(20 * 10 * 4)
    const [r, g, b, a] = grey.pixels
    expect([r, g, b, a]).toEqual([r, r, r, 255])
    expect(Math.abs(r! - 128)).toBeLessThanOrEqual(3)
  })

  it('knows stills from footage in the same kind of file', async () => {
    ffmpeg('-f lavfi -i testsrc2=s=64x36:r=10:d=1 -frames:v 1', at('one.gif'))
    ffmpeg('-f lavfi -i testsrc2=s=64x36:r=10:d=1', at('many.gif'))
    ffmpeg('-f lavfi -i testsrc2=s=64x36:r=10:d=1 -f apng', at('many.png'))
    await sharp(upright(), { raw: { width: W, height: H, channels: 3 } })
      .avif({ quality: 90 })
      .toFile(at('one.avif'))
    expect(await stillFormat(at('one.gif'))).toBe('gif')
    expect(await stillFormat(at('many.gif'))).toBe(null)
    expect(await stillFormat(at('many.png'))).toBe(null)
    await expectUpright('one.avif')
  })

  describe('that are damaged', () => {
    beforeAll(() => stored(1, 'jpeg', 'whole.jpg'))
    it('are refused in words', async () => {
      const bytes = await sharp(at('whole.jpg')).toBuffer()
      writeFileSync(at('cut.jpg'), bytes.subarray(0, bytes.length >> 1))
      await expect(decodeStill(at('cut.jpg'), 'jpeg')).rejects.toThrow(/ends too early|damaged/)
      writeFileSync(at('fake.png'), Buffer.from('\x89PNG\r\n\x1a\nnothing of the kind', 'latin1'))
      await expect(examine(at('fake.png'), 30)).rejects.toThrow('can’t be decoded')
    })
  })
})
