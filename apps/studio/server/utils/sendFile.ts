import { createReadStream } from 'node:fs'
import { stat } from 'node:fs/promises'
import type { H3Event } from 'h3'
import { notFound, Problem } from './problem'

/**
 * Sends a file, or the byte range that is asked for (RFC 9110 § 14). Files are named by what they hold, so they may be
 * cached for good.
 */
export async function sendFile(
  event: H3Event,
  path: string,
  type: string,
  options: { download?: string; lasting?: boolean } = {},
) {
  const info = await stat(path).catch(() => null)
  if (!info) throw notFound('file')
  const range = /^bytes=(\d*)-(\d*)$/.exec(getHeader(event, 'range') ?? '')
  let [start, end] = [0, info.size - 1]
  if (range && (range[1] || range[2])) {
    if (range[1]) {
      start = Number(range[1])
      if (range[2]) end = Math.min(end, Number(range[2]))
    } else start = Math.max(0, info.size - Number(range[2]))
    if (start > end) {
      setHeader(event, 'content-range', `bytes */${info.size}`)
      throw new Problem(416, 'No such range', `The file has ${info.size} bytes.`)
    }
    setResponseStatus(event, 206)
    setHeader(event, 'content-range', `bytes ${start}-${end}/${info.size}`)
  }
  setHeaders(event, {
    'content-type': type,
    'content-length': info.size === 0 ? 0 : end - start + 1,
    'accept-ranges': 'bytes',
    'cache-control': options.lasting ? 'private, max-age=31536000, immutable' : 'private, no-cache',
  })
  if (options.download)
    setHeader(event, 'content-disposition', `attachment; filename*=UTF-8''${encodeURIComponent(options.download)}`)
  if (event.method === 'HEAD' || info.size === 0) return ''
  return sendStream(event, createReadStream(path, { start, end, highWaterMark: 256 * 1024 }))
}
