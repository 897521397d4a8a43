import { actionsOf, defineFeature } from '~/features/registry/feature'
import { useShortcuts } from './shortcutsStore'

/** The person's own keys. */
export const shortcuts = defineFeature({
  id: 'shortcuts',
  useActions() {
    const store = useShortcuts()
    return actionsOf('View', [['view.shortcuts', 'Shortcuts', () => (store.sheetOpen = true)]])
  },
})
