/** Stereo of a stream by sample of the source; silent outside it. */
export type StereoReader = (from: number, count: number) => Promise<Float32Array>

/** What a piece plays: stereo samples counted from the piece's start. */
export interface PieceSource {
  /**
   * `count` samples from sample `from` of the piece, interleaved stereo. What its source does not hold is silent.
   */
  read(from: number, count: number): Promise<Float32Array>
  release?(): void
}
