import { useMarkerActions } from '~/features/markers/useMarkerActions'
import { useOpenClip } from '~/features/registry/feature'
import { useSourceActions } from '~/features/source/useSourceActions'
import { useEditActions } from '~/features/timeline/useEditActions'
import { useViewActions } from '~/features/timeline/useViewActions'
import { useTransitionActions } from '~/features/transitions/useTransitionActions'

/** What the desk can do, whichever feature does it. */
export const useActs = () => ({
  ...useEditActions(),
  ...useViewActions(),
  ...useSourceActions(),
  ...useMarkerActions(),
  fade: useTransitionActions().fade,
  openClip: useOpenClip(),
})
