/** How a part of a title lies at a moment of its move, against where it rests. */
export interface Pose {
  /** In heights of a letter. */
  x?: number
  y?: number
  /** Factors about the part's middle. */
  size?: number
  sizeX?: number
  sizeY?: number
  /** Degrees clockwise. */
  turn?: number
  opacity?: number
}

/** Which part of a title it is, of how many. */
export interface Part {
  index: number
  count: number
}

/** A way for a title's parts to come, go or move. */
export interface MoveKind {
  id: string
  name: string
  hint: string
  /** `pass`: used to come and, run backwards, to go. `stay`: runs over and over while the title is shown. */
  use: 'pass' | 'stay'
  /**
   * @param t for `pass` 0 (not there) to 1 (at rest); for `stay` turns since the beginning
   */
  at(t: number, part: Part): Pose
}

export const defineMove = (kind: MoveKind): MoveKind => kind
