import { actionsOf, defineFeature } from '~/features/registry/feature'
import { useSourceActions } from './useSourceActions'

/** Watching sources, marking parts of them, and putting them into the reel. */
export const source = defineFeature({
  id: 'source',
  useActions() {
    const act = useSourceActions()
    return actionsOf('Choose', [
      ['choose.markIn', 'Mark in', () => act.mark('in')],
      ['choose.markOut', 'Mark out', () => act.mark('out')],
      ['choose.clearMarks', 'Clear the marks', act.clearMarks],
      ['choose.keepPick', 'Keep the marked part as a pick', act.keepPick],
      ['choose.insert', 'Insert here', () => act.use('insert')],
      ['choose.over', 'Lay over', () => act.use('over')],
      ['choose.append', 'Add to the end', () => act.use('append')],
      ['choose.stack', 'Stack above', () => act.use('stack')],
      ['choose.replace', 'Replace the selected clip', () => act.replace()],
      ['choose.closeSource', 'Back to the reel', act.closeSource],
    ])
  },
  useMenu() {
    const act = useSourceActions()
    return ({ clip }) =>
      clip?.kind === 'media'
        ? [{ order: 50, items: [{ label: 'Watch the source', run: () => void act.openSourceOf(clip) }] }]
        : clip?.kind === 'reel'
          ? [{ order: 50, items: [{ label: 'Open this reel', run: () => void act.openSourceOf(clip) }] }]
          : []
  },
  useOpenClip: () => useSourceActions().openSourceOf,
})
