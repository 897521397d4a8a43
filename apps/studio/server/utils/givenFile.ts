import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { rm } from 'node:fs/promises'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { H3Event } from 'h3'

const MB = 1024 ** 2

/**
 * Takes a file that documents name by its hash, out of the body of a request.
 * @param what it is called in errors, such as `A .cube file`
 * @param limit bytes
 * @param check reads it, and throws a {@link Problem} when it is none
 * @returns its hash, and what `check` found
 */
export async function takeGivenFile<T>(
  event: H3Event,
  { what, ending, limit }: { what: string; ending: string; limit: number },
  check: (path: string) => Promise<T>,
): Promise<T & { hash: string }> {
  const { storage } = useServices()
  const path = await storage.scratch(ending)
  const tooLarge = () => new Problem(413, 'Too large', `${what} of more than ${limit / MB} MB is not taken.`)
  if (Number(getHeader(event, 'content-length') ?? 0) > limit) throw tooLarge()
  const sum = createHash('sha256')
  let bytes = 0
  const count = new Transform({
    transform(part: Buffer, _encoding, done) {
      bytes += part.length
      sum.update(part)
      done(bytes > limit ? tooLarge() : null, part)
    },
  })
  try {
    await pipeline(event.node.req, count, createWriteStream(path))
    const found = await check(path)
    const hash = sum.digest('hex')
    await storage.publish(path, storage.given(hash))
    return { ...found, hash }
  } finally {
    await rm(path, { force: true })
  }
}
