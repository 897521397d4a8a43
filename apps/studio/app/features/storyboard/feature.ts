import { actionsOf, defineFeature } from '~/features/registry/feature'
import { useDesk } from '~/features/timeline/deskStore'

/** The reel as a card for each shot. */
export const storyboard = defineFeature({
  id: 'storyboard',
  useActions() {
    const desk = useDesk()
    const turn = () => (desk.view = desk.view === 'timeline' ? 'storyboard' : 'timeline')
    return actionsOf('View', [['view.storyboard', 'Storyboard or timeline', turn]])
  },
})
