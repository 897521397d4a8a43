import { PROXY_PIECE, TICKS_PER_SECOND, type Asset } from '@dusk/timeline'
import type { SourceState } from '~~/server/utils/sources'
import { MissedFrames } from './missedFrames'

const missed = new MissedFrames()

/**
 * The pointer is over a place of a source: before there is a proxy, the piece of it that holds the place is made next.
 * @param time in the source, in ticks
 */
export function pointedAt(asset: Asset, source: SourceState | undefined, time: number): void {
  const rate = asset.picture?.rate
  if (!rate || !source?.pieces) return
  // To the frame only where the rate does not vary; a piece is seconds long.
  const frame = Math.floor(((Math.max(0, time) / TICKS_PER_SECOND) * rate.num) / rate.den)
  if (!source.pieces.there.includes(Math.floor(frame / PROXY_PIECE))) missed.missed(source.pieces.nearUrl, frame)
}
