import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { readFile, rm } from 'node:fs/promises'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { CUBE_LIMITS, CubeError, readCube } from '@dusk/compositor'

const MB = 1024 ** 2

/** A .cube file as its bytes: kept for effects to name by its hash, once it was read. */
export default defineApi(async (event) => {
  const { storage } = useServices()
  const path = await storage.scratch('.cube')
  const tooLarge = () =>
    new Problem(413, 'Too large', `A .cube file of more than ${CUBE_LIMITS.bytes / MB} MB is not taken.`)
  if (Number(getHeader(event, 'content-length') ?? 0) > CUBE_LIMITS.bytes) throw tooLarge()
  const sum = createHash('sha256')
  let bytes = 0
  const count = new Transform({
    transform(part: Buffer, _encoding, done) {
      bytes += part.length
      sum.update(part)
      done(bytes > CUBE_LIMITS.bytes ? tooLarge() : null, part)
    },
  })
  try {
    await pipeline(event.node.req, count, createWriteStream(path))
    const { title, dimensions, size } = readCube(await readFile(path, 'utf8'))
    const hash = sum.digest('hex')
    await storage.publish(path, storage.given(hash))
    return { hash, title, dimensions, size }
  } catch (error) {
    if (error instanceof CubeError) throw new Problem(422, 'Not a .cube file', error.message)
    throw error
  } finally {
    await rm(path, { force: true })
  }
})
