import type { MediaFacts } from '@dusk/store'

/** Where a source's files lie and what is known of them, by asset. */
export type SourceBook = Map<string, { hash: string; facts: MediaFacts }>
