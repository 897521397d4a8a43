import Wand from '@lucide/vue/dist/esm/icons/wand-sparkles.mjs'
import { pictureEffect } from '@dusk/compositor'
import { useEffectDrop } from '~/features/params/effectDrop'
import { actionsOf, defineFeature } from '~/features/registry/feature'
import { useDesk } from '~/features/timeline/deskStore'
import ClipEffects from './ClipEffects.vue'
import EffectsDrawer from './EffectsDrawer.vue'
import ReelEffects from './ReelEffects.vue'

/** What is done to pictures: colours, looks, blur, light, grain. */
export const effects = defineFeature({
  id: 'effects',
  drawer: { id: 'effects', label: 'Effects', icon: Wand, component: EffectsDrawer, order: 45 },
  clipSections: [
    {
      order: 8,
      component: ClipEffects,
      props: ({ pictures, time, goTo }) => (pictures.length === 1 ? { clip: pictures[0], time, go: goTo } : null),
    },
  ],
  reelSection: ReelEffects,
  useActions() {
    const desk = useDesk()
    return actionsOf('View', [['effects.drawer', 'Effects', () => desk.toggleDrawer('effects')]])
  },
  useDrops: () => ({
    effect: useEffectDrop('picture', 'effect', (kind) => pictureEffect(kind)?.name, 'Picture effects go on pictures'),
  }),
})
