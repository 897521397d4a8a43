import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible'
import { z } from 'zod'

const schema = z.object({ passphrase: z.string().min(1).max(1000) })

/** Tries within a quarter of an hour: of one address, and of all of them together. */
const QUARTER = 15 * 60
const ofOne = new RateLimiterMemory({ points: 8, duration: QUARTER })
const ofAll = new RateLimiterMemory({ points: 100, duration: QUARTER })

/** Lets the browser in that knows the passphrase. */
export default defineOpenApi(async (event) => {
  const { passphrase } = await bodyOf(event, schema)
  const kept = accessSettings().passphrase
  if (!kept) throw new Problem(404, 'No passphrase', 'This studio has no passphrase: it lets in who opens its link.')
  const address = getRequestIP(event) ?? ''
  try {
    await ofOne.consume(address)
    await ofAll.consume('all')
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error
    const seconds = Math.ceil(error.msBeforeNext / 1000)
    setHeader(event, 'retry-after', seconds)
    throw new Problem(429, 'Too many tries', `That was tried too often. Try again in ${Math.ceil(seconds / 60)} min.`)
  }
  if (!(await passphraseFits(passphrase, kept)))
    throw new Problem(401, 'Not the passphrase', 'That is not the passphrase of this studio.')
  await ofOne.delete(address)
  await letIn(event, 'passphrase')
  return { entered: true }
})
