import type { Storage } from '@dusk/media'
import type { ArtefactKind, ProxyPieces } from '@dusk/store'
import type { SourceMetadata } from '@dusk/timeline'

/** What the making of an artefact gets. */
export interface ArtefactInput {
  /** Path of the source's original. */
  original: string
  hash: string
  metadata: SourceMetadata
  settings: Record<string, unknown>
  storage: Storage
  pieces: PieceShelf
  signal: AbortSignal
  progress(part: number): void
}

/** The finished pieces of an artefact that is made piece by piece: others use them, and a later attempt goes on. */
export interface PieceShelf {
  /** What is known of each that is there. */
  readonly there: Readonly<ProxyPieces>
  /** Path of one. */
  path(piece: number): string
  /** Puts one there from scratch, and tells of it. */
  keep(piece: number, scratch: string, known: ProxyPieces[string]): Promise<void>
  /** Takes all away again. */
  drop(): Promise<void>
  /** A frame of the source that somebody looks at, if any. */
  near(): Promise<number | null>
  /** Lets others have their turn. @throws {WorkLost} when one has it now: this attempt ends, the next one goes on */
  turn(): Promise<void>
}

/** What came of it. */
export interface ArtefactResult {
  /** Files by their name in the artefact, in scratch; they are moved to their place. */
  files: Record<string, string>
  /** What is known of the result. */
  facts: Record<string, unknown>
  /** What was found out of the source itself on the way. */
  metadata?: Partial<SourceMetadata>
}

/** One kind of thing that is worked out from stored files. */
export interface ArtefactMaker {
  kind: ArtefactKind
  /** Works it out. @throws {BadMedia} when the source does not allow it */
  make(input: ArtefactInput): Promise<ArtefactResult>
}

export function defineArtefact(maker: ArtefactMaker): ArtefactMaker {
  return maker
}
