import type { Label } from '@dusk/timeline'

/** The person's own labels, in the order they are shown. */
export const LABELS: readonly Label[] = ['lamp', 'ember', 'rose', 'dusk', 'moss', 'plum']
