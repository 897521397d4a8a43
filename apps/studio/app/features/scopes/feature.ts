import { actionsOf, defineFeature } from '~/features/registry/feature'
import ScopesColumn from './ScopesColumn.vue'
import { useScopes } from './scopesStore'

/** What a picture measures: waveform, parade, vectorscope, histogram, stripes over what has nothing left. */
export const scopes = defineFeature({
  id: 'scopes',
  viewerSide: ScopesColumn,
  keys: { 'scopes.show': ['Shift Y'] },
  useActions() {
    const store = useScopes()
    return actionsOf('View', [
      ['scopes.show', 'Scopes', () => (store.open = !store.open)],
      ['scopes.zebra', 'Stripes over what has nothing left', () => (store.zebra = !store.zebra)],
    ])
  },
})
