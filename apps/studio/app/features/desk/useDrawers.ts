import { useFeatures, type DrawerEntry } from '~/features/registry/feature'

/** The drawers of all features, from the top of the rail down. */
export function useDrawers(): DrawerEntry[] {
  return useFeatures()
    .flatMap((feature) => feature.drawer ?? [])
    .sort((a, b) => a.order - b.order)
}
