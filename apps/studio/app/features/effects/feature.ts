import Wand from '@lucide/vue/dist/esm/icons/wand-sparkles.mjs'
import { pictureEffect } from '@dusk/compositor'
import { useEffectDrop } from '~/features/params/effectDrop'
import { useProject } from '~/features/project/projectStore'
import { actionsOf, defineFeature } from '~/features/registry/feature'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import ClipEffects from './ClipEffects.vue'
import EffectsDrawer from './EffectsDrawer.vue'
import EffectsLayer from './EffectsLayer.vue'
import { bareEffects, useEffects } from './effectsStore'
import ReelEffects from './ReelEffects.vue'
import { effectStack, useEffectTarget } from './useEffectTarget'

/** What is done to pictures: colours, looks, blur, light, grain; where, by masks; and what it was before. */
export const effects = defineFeature({
  id: 'effects',
  drawer: {
    id: 'effects',
    label: 'Effects',
    icon: Wand,
    component: EffectsDrawer,
    order: 45,
    gallery: true,
    full: true,
  },
  clipSections: [
    {
      order: 8,
      full: true,
      component: ClipEffects,
      props: ({ pictures, time, goTo }) => (pictures.length === 1 ? { clip: pictures[0], time, go: goTo } : null),
    },
  ],
  reelSection: ReelEffects,
  viewerLayer: EffectsLayer,
  keys: {
    'effects.compare': ['Shift V'],
    'effects.drawer': ['Shift D'],
    'effects.copy': ['Alt Shift C'],
    'effects.paste': ['Alt Shift V'],
  },
  useActions() {
    const desk = useDesk()
    const project = useProject()
    const store = useEffects()
    const notices = useNotices()
    const target = useEffectTarget('picture')
    function copy(): void {
      const stack = effectStack('picture', project.document?.effects ?? {}, target.value.ids[0]!)
      if (stack.length === 0) return notices.say(`There are no effects on ${target.value.words}.`)
      store.copied = bareEffects(stack)
      notices.say(`Copied ${stack.length === 1 ? 'an effect' : `${stack.length} effects`} of ${target.value.words}.`)
    }
    function paste(): void {
      const { owner, ids } = target.value
      if (store.copied.length === 0) return notices.say('No effects were copied yet.')
      project.perform({ type: 'addEffects', owner, ownerIds: ids, effects: store.copied as never })
    }
    return actionsOf('View', [
      ['effects.drawer', 'Effects', () => desk.toggleDrawer('effects')],
      [
        'effects.compare',
        'Before and after, with a line between',
        () => (store.bareTo = store.bareTo === null ? 0.5 : null),
      ],
      ['effects.copy', 'Copy effects', copy],
      ['effects.paste', 'Paste effects', paste],
    ])
  },
  useDrops: () => ({
    effect: useEffectDrop('picture', 'effect', (kind) => pictureEffect(kind)?.name, 'Picture effects go on pictures'),
  }),
})
