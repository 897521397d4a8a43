/** Containers of single pictures that are told by their first bytes. */
export type StillFormat = 'jpeg' | 'png' | 'webp' | 'tiff' | 'gif' | 'heic' | 'avif' | 'bmp'

/** Bytes from the start of a file that {@link sniffStill} wants to see. */
export const SNIFF_BYTES = 4096

const ascii = (head: Uint8Array, from: number, to: number) => String.fromCharCode(...head.subarray(from, to))

/** Brands of ISO/IEC 23008-12 whose pictures are coded as HEVC. */
const HEVC_BRANDS = /heic|heix|hevc|hevx|heim|heis|hevm|hevs/
const AV1_BRANDS = /avif|avis/

/**
 * Which kind of picture a file holds by its signature, or `null` when it is none. Animated PNG counts as none: it is
 * footage. GIF, WebP and AVIF may hold more than one picture; that is for whoever opens them to see.
 */
export function sniffStill(head: Uint8Array): StillFormat | null {
  if (head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff) return 'jpeg'
  if (ascii(head, 1, 4) === 'PNG' && head[0] === 0x89)
    return ascii(head, 8, head.length).includes('acTL') ? null : 'png'
  if (ascii(head, 0, 4) === 'RIFF' && ascii(head, 8, 12) === 'WEBP') return 'webp'
  if (ascii(head, 0, 4) === 'GIF8') return 'gif'
  if (ascii(head, 0, 2) === 'BM' && head[6] === 0 && head[8] === 0) return 'bmp'
  if (/^(II\*\0|MM\0\*|II\+\0|MM\0\+)/.test(ascii(head, 0, 4))) return 'tiff'
  if (ascii(head, 4, 8) !== 'ftyp') return null
  const brands = ascii(head, 8, Math.min(head.length, 8 + Math.max(0, (head[3] ?? 0) - 8)))
  if (AV1_BRANDS.test(brands)) return 'avif'
  return HEVC_BRANDS.test(brands) || /^mif1|^msf1/.test(brands) ? 'heic' : null
}
