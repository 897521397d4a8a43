import { useProject } from '~/features/project/projectStore'
import { actionsOf, defineFeature } from '~/features/registry/feature'

/** What was done, and taking it back. */
export const history = defineFeature({
  id: 'history',
  useActions() {
    const project = useProject()
    return actionsOf('View', [
      ['edit.undo', 'Undo', project.undo],
      ['edit.redo', 'Redo', project.redo],
    ])
  },
})
