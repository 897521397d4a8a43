import { frameCount, PROXY_PIECE, PROXY_RATE, type SourceMetadata } from '@dusk/timeline'
import { joinChunks } from './join'
import { makeProxy, type ProxyOptions } from './proxy'

/** What is known of a finished piece of a proxy: its frames, and hashes of decoded frames of the source by number. */
export interface ProxyPiece {
  frames: number
  hashes: Record<number, string>
}

/** Pieces of a source's proxy. @returns 1 for one that is made in one go: it is short, or can't be begun anywhere */
export function pieceCount(metadata: SourceMetadata): number {
  const count = Math.ceil(frameCount(metadata.table!) / PROXY_PIECE)
  // What weaves frames out of fields needs those before.
  const woven = metadata.filters.some((filter) => filter.includes('dif'))
  return metadata.seekable && !woven && count > 2 ? count : 1
}

/** Numbers of the first frame of a piece and of the one behind its last. */
export function pieceRange(metadata: SourceMetadata, piece: number): { first: number; end: number } {
  return { first: piece * PROXY_PIECE, end: Math.min((piece + 1) * PROXY_PIECE, frameCount(metadata.table!)) }
}

/**
 * Writes one piece of a proxy. Its first frame and the one behind its last are hashed, so that neighbours show whether
 * they fit ({@link piecesFit}).
 * @param sampled numbers of frames to be hashed, those in the piece
 */
export async function makeProxyPiece(
  path: string,
  metadata: SourceMetadata,
  piece: number,
  out: string,
  { sampled = [], ...options }: Pick<ProxyOptions, 'sampled' | 'signal' | 'progress'> = {},
): Promise<ProxyPiece & { width: number; height: number }> {
  const { first, end } = pieceRange(metadata, piece)
  const looked = new Set([first, ...sampled.filter((n) => n >= first && n < end)])
  if (end < frameCount(metadata.table!)) looked.add(end)
  const made = await makeProxy(path, metadata, out, { ...options, first, count: end - first, sampled: [...looked] })
  return { width: made.width, height: made.height, frames: made.frames, hashes: Object.fromEntries(made.hashes) }
}

/**
 * Whether pieces hold all frames in order. The first was decoded from the source's start; where each decodes on to the
 * same frame that its neighbour found by seeking, all of them were found as if decoded from the start.
 */
export function piecesFit(metadata: SourceMetadata, pieces: readonly ProxyPiece[]): boolean {
  return pieces.every((piece, n) => {
    const { first, end } = pieceRange(metadata, n)
    const next = pieces[n + 1]
    return piece.frames === end - first && (!next || piece.hashes[end] === next.hashes[end]) && first in piece.hashes
  })
}

/** Joins the pieces of a proxy, in order, to the whole of it. @param scratch a path to write a list to */
export async function joinProxy(
  pieces: readonly { path: string; frames: number }[],
  out: string,
  scratch: string,
  signal?: AbortSignal,
): Promise<void> {
  const rate = { num: PROXY_RATE, den: 1 }
  await joinChunks({ chunks: pieces, rate, sound: null, out, ending: 'mp4', scratch }, signal)
}
