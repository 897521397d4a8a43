import type { RenderRow as ServerRow } from '~~/server/utils/renders'
import type { PostRow } from '~/features/posting/posting'

/** A render as the server tells of it: times are ISO 8601. */
export type RenderRow = Omit<ServerRow, 'createdAt' | 'startedAt' | 'endedAt' | 'posts'> & {
  posts: PostRow[]
  createdAt: string
  startedAt: string | null
  endedAt: string | null
}

/** A stretch of a render that is made by itself. */
export interface ChunkState {
  n: number
  /** Output frames, half-open. */
  first: number
  end: number
  state: 'kept' | 'waiting' | 'working' | 'ready'
  /** Frames drawn so far. */
  drawn: number
  worker: string | null
  /** Whoever draws it has not been heard of for a while. */
  silent: boolean
}

/** Renders that are not done yet in the order in which they are made, and the others, the newest first. */
export function inOrder(rows: readonly RenderRow[]): { open: RenderRow[]; done: RenderRow[] } {
  const isOpen = ({ state }: RenderRow) => state === 'waiting' || state === 'working' || state === 'paused'
  const rank = ({ state, place }: RenderRow) => (state === 'working' ? -Infinity : place)
  return {
    open: rows.filter(isOpen).sort((a, b) => rank(a) - rank(b) || a.place - b.place),
    done: rows.filter((row) => !isOpen(row)),
  }
}

/**
 * Behind which render one comes that is dropped on another: dropped from above it comes behind that one, from below
 * before it.
 * @returns an id, `null` for the first place, or `undefined` when nothing changes
 */
export function placeBehind(open: readonly RenderRow[], dragged: string, target: string): string | null | undefined {
  const [from, to] = [dragged, target].map((id) => open.findIndex((row) => row.id === id)) as [number, number]
  if (from < 0 || to < 0 || from === to) return undefined
  if (from < to) return target
  return open[to - 1]?.id ?? null
}
