import type { Post, PostFile, PostLimits } from '@dusk/interchange'
import type { PostRow as ServerRow } from '~~/server/utils/posts'

/** A film on its way to a place, or there, as the server tells of it: times are ISO 8601. */
export type PostRow = Omit<ServerRow, 'createdAt' | 'endedAt'> & { createdAt: string; endedAt: string | null }

/** What the dialog begins with: what the film says of itself, and what the place takes. */
export interface PostDraft {
  title: string
  description: string
  chapters: Post['chapters']
  file: PostFile
  /** `null` when the place does not answer; `message` says so. */
  limits: PostLimits | null
  message: string | null
}

/** Words parted by commas or lines, each once. */
export function readTags(text: string): string[] {
  const tags = text.split(/[,\n]/).map((tag) => tag.trim().replace(/^#/, ''))
  return [...new Set(tags.filter((tag) => tag !== ''))]
}

/** How far a post is, in words. */
export function postWords(post: Pick<PostRow, 'state' | 'sent' | 'file' | 'message'>): string {
  const part = Math.floor((100 * post.sent) / post.file.bytes)
  const there = part > 0 ? ` ${part} % of it is there already.` : ''
  // It waits for the place, and goes on by itself.
  if ((post.state === 'waiting' || post.state === 'working') && post.message) return post.message + there
  switch (post.state) {
    case 'waiting':
      return post.sent > 0 ? `goes on at ${part} %` : 'waits for its turn'
    case 'working':
      return post.sent >= post.file.bytes ? 'all sent, is being put up' : `is sent, ${part} %`
    case 'ready':
      return 'posted'
    case 'cancelled':
      return `stopped at ${part} %`
    case 'failed':
      return (post.message ?? 'It failed.') + there
  }
}
