import { createHash, randomBytes } from 'node:crypto'

/** How long a link lets somebody in, in minutes. */
export const LINK_MINUTES = 60
/** Most links that wait to be opened; the oldest gives way. */
const MOST = 100

const digest = (token: string) => createHash('sha256').update(token).digest('hex')

/** Links that let one browser in, once. They are kept in memory: a studio that starts anew knows none of them. */
export class LinkBook {
  /** Ends of links, in milliseconds since 1970, by their digests. */
  private readonly ends = new Map<string, number>()

  /** A new link's token: 24 random bytes as base64url. @param now milliseconds since 1970 */
  issue(now = Date.now()): string {
    const token = randomBytes(24).toString('base64url')
    this.ends.set(digest(token), now + LINK_MINUTES * 60_000)
    for (const [key, end] of this.ends) if (end <= now || this.ends.size > MOST) this.ends.delete(key)
    return token
  }

  /** Uses a link up. @returns whether it was there and not too old */
  take(token: string, now = Date.now()): boolean {
    const key = digest(token)
    const end = this.ends.get(key)
    this.ends.delete(key)
    return end !== undefined && end > now
  }
}
