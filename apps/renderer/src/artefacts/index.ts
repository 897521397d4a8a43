import type { ArtefactKind } from '@dusk/store'
import { between } from './between'
import type { ArtefactMaker } from './define'
import { glance } from './glance'
import { proxy } from './proxy'
import { sound } from './sound'
import { still } from './still'

/** Everything that is worked out from stored files, by its kind. */
export const ARTEFACTS: Record<ArtefactKind, ArtefactMaker> = { glance, still, sound, proxy, between }
