import { postLimitsSchema, type PostLimits } from '@dusk/interchange'

/** How long the place is waited for, in milliseconds: somebody looks at a dialog meanwhile. */
const PATIENCE_MS = 4000

/** Where films are posted to, as `./dusk start` says it in the environment; `null` where there is no such place. */
function boardOrigin(): string | null {
  return process.env.DUSK_BOARD || null
}

/** What the place takes. @throws {Problem} 503 in words when there is none, or it does not answer */
export async function boardLimits(): Promise<PostLimits> {
  const origin = boardOrigin()
  if (!origin)
    throw new Problem(503, 'No such place', 'This studio knows no place to post to: DUSK_BOARD says where one is.')
  try {
    const answer = await fetch(`${origin}/limits`, { signal: AbortSignal.timeout(PATIENCE_MS) })
    return postLimitsSchema.parse(await answer.json())
  } catch {
    throw new Problem(503, 'No answer', `The place to post to, at ${origin}, does not answer just now.`)
  }
}
