import Library from '@lucide/vue/dist/esm/icons/library.mjs'
import { defineFeature } from '~/features/registry/feature'
import StockDrawer from './StockDrawer.vue'

/** The library of sounds and pictures that ships with the program. */
export const stock = defineFeature({
  id: 'stock',
  drawer: { id: 'stock', label: 'Stock', icon: Library, component: StockDrawer, order: 20 },
})
