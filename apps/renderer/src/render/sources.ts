import type { SourceMetadata } from '@dusk/timeline'

/** The stored file behind each asset and what is known of it. */
export type SourceBook = Map<string, { hash: string; metadata: SourceMetadata }>
