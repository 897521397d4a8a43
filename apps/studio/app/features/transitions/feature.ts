import Blend from '@lucide/vue/dist/esm/icons/blend.mjs'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { actionsOf, defineFeature } from '~/features/registry/feature'
import { useDesk } from '~/features/timeline/deskStore'
import { meantCuts } from './cuts'
import TransitionDetails from './TransitionDetails.vue'
import TransitionsOverlay from './TransitionsOverlay.vue'
import TransitionsDrawer from './TransitionsDrawer.vue'
import { useTransitions } from './transitionsStore'
import { useTransitionActions } from './useTransitionActions'
import { useTransitionDrop } from './useTransitionDrop'

/** Changes from one clip to the next, and the coming and going of single ones. */
export const transitions = defineFeature({
  id: 'transitions',
  drawer: {
    id: 'transitions',
    label: 'Transitions',
    icon: Blend,
    component: TransitionsDrawer,
    order: 30,
    gallery: true,
  },
  details: [
    {
      order: 10,
      component: TransitionDetails,
      props: ({ transitions }) => (transitions.length > 0 ? { transitions } : null),
    },
  ],
  timeline: { overlay: TransitionsOverlay },
  useActions() {
    const desk = useDesk()
    const act = useTransitionActions()
    void useTransitions().load()
    return [
      ...actionsOf('Letter', [['join.drawer', 'Transitions', () => desk.toggleDrawer('transitions')]]),
      ...actionsOf('Join', [
        ['join.standard', 'Put in the standard transition', act.useStandard],
        ['join.fadeIn', 'Fade in', () => act.fade('start')],
        ['join.fadeOut', 'Fade out', () => act.fade('end')],
      ]),
    ]
  },
  useClipboard() {
    const desk = useDesk()
    const store = useTransitions()
    const act = useTransitionActions()
    // Clips that are selected are meant before transitions are.
    const copy = () => desk.selection.size === 0 && act.copy()
    return { copy, paste: act.paste, forget: () => (store.copied = null) }
  },
  useMenu() {
    const project = useProject()
    const desk = useDesk()
    const playhead = usePlayhead()
    const act = useTransitionActions()
    return ({ clip }) => {
      if (!clip) return []
      const cuts = meantCuts(project.document!, project.reelId, desk.selection, playhead.now())
      const joins = cuts.some((cut) => cut.left && cut.right)
      const put = {
        label: 'Put a transition on its cut',
        action: 'join.standard',
        run: act.useStandard,
      }
      return [
        {
          order: 20,
          items: [
            ...(joins ? [put] : []),
            { label: 'Fade in', action: 'join.fadeIn', run: () => act.fade('start') },
            { label: 'Fade out', action: 'join.fadeOut', run: () => act.fade('end') },
          ],
        },
      ]
    }
  },
  useDrops: () => ({ transition: useTransitionDrop() }),
})
