import { defineFeature } from '~/features/registry/feature'
import ClipDetails from './ClipDetails.vue'
import ReelDetails from './ReelDetails.vue'
import TrackDetails from './TrackDetails.vue'

/** The desk itself: what shows of clips, tracks and the reel. */
export const desk = defineFeature({
  id: 'desk',
  details: [
    { order: 20, component: ClipDetails, props: ({ clips }) => (clips.length > 0 ? { clips } : null) },
    { order: 40, component: TrackDetails, props: ({ track }) => (track?.kind === 'picture' ? { track } : null) },
    { order: 100, component: ReelDetails, props: () => ({}) },
  ],
})
