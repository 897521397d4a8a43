import { defineFeature } from '~/features/registry/feature'
import KeyframeLane from './KeyframeLane.vue'

/** Settings that change over time. */
export const keyframes = defineFeature({ id: 'keyframes', timeline: { panel: KeyframeLane } })
