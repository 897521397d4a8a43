import { randomUUID } from 'node:crypto'
import { z } from 'zod'
import { postFaults, postWordsSchema } from '@dusk/interchange'
import { posts } from '@dusk/store'

const schema = z.object({
  words: postWordsSchema,
  thumbnail: z
    .union([
      z.object({ at: z.number().nonnegative() }),
      z.object({ kind: z.string().max(100), bytes: z.base64().max(8_000_000) }),
    ])
    .nullable(),
})

/** Posts a finished film: a worker sends it. What the place would refuse is refused before. */
export default defineApi(async (event) => {
  const renderId = idOf(event)
  const { words, thumbnail } = await bodyOf(event, schema)
  const { file } = await postableFilm(renderId)
  const limits = await boardLimits()
  const faults = postFaults({ ...words, file }, limits)
  const picture = thumbnail && 'bytes' in thumbnail ? Buffer.from(thumbnail.bytes, 'base64') : null
  if (faults.length > 0)
    throw new Problem(
      422,
      'Not taken',
      faults[0]!.words,
      faults.map((fault) => ({ path: fault.field, message: fault.words })),
    )
  if (thumbnail && 'at' in thumbnail && thumbnail.at > file.seconds)
    throw new Problem(
      422,
      'Not taken',
      `The film lasts ${file.seconds.toFixed(2)} s: its thumbnail lies beyond its end.`,
      [{ path: 'thumbnail.at', message: 'lies beyond the end of the film' }],
    )
  const kinds = limits.thumbnail.kinds
  if (picture && thumbnail && 'kind' in thumbnail && !kinds.includes(thumbnail.kind))
    throw new Problem(422, 'Not taken', `A thumbnail is one of ${kinds.join(', ')}.`)
  const { db, queue } = useServices()
  const id = randomUUID()
  await db.transaction(async (tx) => {
    const shown = thumbnail && ('kind' in thumbnail ? { kind: thumbnail.kind } : thumbnail)
    const row = { id, renderId, place: limits.place, words, file, thumbnail: shown, picture }
    await tx.insert(posts).values({ ...row, state: 'waiting', heartbeatAt: new Date() })
    await queue.send('post', { id, attempt: 0 }, tx)
  })
  await announcePost(renderId)
  setResponseStatus(event, 201)
  return { id }
})
