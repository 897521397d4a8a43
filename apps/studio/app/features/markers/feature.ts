import Flag from '@lucide/vue/dist/esm/icons/flag.mjs'
import { usePlayhead } from '~/features/player/usePlayhead'
import { actionsOf, defineFeature } from '~/features/registry/feature'
import MarkerLane from './MarkerLane.vue'
import MarkersDrawer from './MarkersDrawer.vue'
import { useMarkerActions } from './useMarkerActions'

/** Points and ranges worth finding again. */
export const markers = defineFeature({
  id: 'markers',
  drawer: { id: 'markers', label: 'Markers', icon: Flag, component: MarkersDrawer, order: 90, full: true },
  timeline: { ruler: MarkerLane },
  useActions() {
    const act = useMarkerActions()
    return actionsOf('Mark and select', [
      ['mark.add', 'Set a marker', act.addMarker],
      ['mark.previous', 'To the previous marker', () => act.jumpMarker(-1)],
      ['mark.next', 'To the next marker', () => act.jumpMarker(1)],
    ])
  },
  useMenu() {
    const act = useMarkerActions()
    const playhead = usePlayhead()
    return ({ clip, tick }) => [
      {
        order: clip ? 50 : 20,
        items: [{ label: 'Set a marker here', run: () => (playhead.goTo(tick), act.addMarker()) }],
      },
    ]
  },
})
