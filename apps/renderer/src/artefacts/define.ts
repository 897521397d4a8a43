import type { Storage } from '@dusk/media'
import type { ArtefactKind } from '@dusk/store'
import type { SourceMetadata } from '@dusk/timeline'

/** What the making of an artefact gets. */
export interface ArtefactInput {
  /** Path of the source's original. */
  original: string
  hash: string
  metadata: SourceMetadata
  settings: Record<string, unknown>
  storage: Storage
  signal: AbortSignal
  progress(part: number): void
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
