import type { OwnFont } from '@dusk/timeline'
import type { FontFile } from './fonts'

/** Paths of the person's own font files begin so; whoever reads fonts takes the rest for a hash. */
const GIVEN = 'given/'

/** The file of an own font, as a `FontReader` is asked for it. */
export const ownFontFile = ({ hash }: OwnFont): FontFile => ({ name: `own ${hash}`, path: GIVEN + hash })

/** The hash in a path that {@link ownFontFile} made; `null` for paths of fonts that ship. */
export const givenHash = (path: string) => (path.startsWith(GIVEN) ? path.slice(GIVEN.length) : null)
