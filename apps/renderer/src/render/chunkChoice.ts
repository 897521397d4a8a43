/** A chunk as it is shared out among workers: whether it can be taken, and whether somebody is drawing it. */
export interface ChoosableChunk {
  n: number
  free: boolean
  busy: boolean
}

/**
 * Which chunk a lane takes next: the one behind its last, since a decoder that goes on costs a fraction of one that
 * begins again; else from the longest stretch that is left its beginning, or its later half where somebody is just
 * coming along to its beginning.
 * @param chunks in order
 * @param last number of the lane's last chunk, or `null`
 * @returns its number, or `null` when none is free
 */
export function chooseChunk(chunks: readonly ChoosableChunk[], last: number | null): number | null {
  if (last !== null && chunks[last + 1]?.free) return last + 1
  let best: { from: number; length: number } | null = null
  for (let from = 0; from < chunks.length; from++) {
    if (!chunks[from]!.free) continue
    let end = from
    while (chunks[end]?.free) end++
    if (!best || end - from > best.length) best = { from, length: end - from }
    from = end
  }
  if (!best) return null
  const coming = best.from > 0 && chunks[best.from - 1]!.busy
  return best.from + (coming ? Math.floor(best.length / 2) : 0)
}
