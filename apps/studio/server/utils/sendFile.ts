import { stat } from 'node:fs/promises'
import { basename, dirname } from 'node:path'
import type { H3Event } from 'h3'
import send from 'send'
import { notFound, Problem } from './problem'
import { useServices } from './services'

/**
 * Sends a file, or the byte range that is asked for (RFC 9110 § 14). Files are named by what they hold, so they may be
 * cached for good.
 * @throws Problem 404 if there is no such file, 416 if the range lies outside it
 */
export async function sendFile(
  event: H3Event,
  path: string,
  type: string,
  options: { download?: string; lasting?: boolean } = {},
): Promise<void> {
  await useServices().storage.fetch(path)
  const info = await stat(path).catch(() => null)
  if (!info) throw notFound('file')
  setHeaders(event, {
    'content-type': type,
    'cache-control': options.lasting ? 'private, max-age=31536000, immutable' : 'private, no-cache',
  })
  if (options.download)
    setHeader(event, 'content-disposition', `attachment; filename*=UTF-8''${encodeURIComponent(options.download)}`)
  const { req, res } = event.node
  // The last 99 bytes of a file of ten are all of it (RFC 9110 § 14.1.2); the library refuses them.
  const last = /^bytes=-(\d+)$/.exec(req.headers.range ?? '')
  if (last && Number(last[1]) > info.size) req.headers.range = 'bytes=0-'
  await new Promise<void>((resolve, reject) => {
    send(req, encodeURIComponent(basename(path)), {
      root: dirname(path),
      dotfiles: 'allow',
      cacheControl: false,
      etag: false,
      lastModified: false,
    })
      .on('error', (error: Error & { status?: number }) => {
        // Whoever asked has gone away, and the answer was closed meanwhile.
        if (res.headersSent) return resolve()
        setHeader(event, 'content-range', `bytes */${info.size}`)
        reject(
          error.status === 416
            ? new Problem(416, 'No such range', `The file has ${info.size} bytes.`)
            : notFound('file'),
        )
      })
      .pipe(res)
    res.once('close', resolve)
  })
}
