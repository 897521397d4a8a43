import Library from '@lucide/vue/dist/esm/icons/library.mjs'
import { secondsToTicks, type Track } from '@dusk/timeline'
import { useArrivals } from '~/features/library/arrivalsStore'
import { useProject } from '~/features/project/projectStore'
import { defineFeature, type DropPlace } from '~/features/registry/feature'
import { STILL_LENGTH } from '~/features/timeline/drop'
import { useNotices } from '~/features/ui/noticesStore'
import { importStock, type DraggedStock, type StockItem } from './stock'
import StockDrawer from './StockDrawer.vue'

const lengthOf = (item: StockItem) => (item.kind === 'sound' ? secondsToTicks(item.seconds) : STILL_LENGTH)

/** The track it would go to: the one under the pointer, where that is of its kind. */
const trackFor = ({ track }: DropPlace, item: StockItem): Track | null =>
  track && (track.kind === 'sound') === (item.kind === 'sound') ? track : null

/** The library of sounds and pictures that ships with the program. */
export const stock = defineFeature({
  id: 'stock',
  drawer: { id: 'stock', label: 'Stock', icon: Library, component: StockDrawer, order: 20, gallery: true },
  useDrops() {
    const project = useProject()
    const arrivals = useArrivals()
    const notices = useNotices()
    const itemOf = (data: Record<string, unknown>) => (data as unknown as DraggedStock).item
    return {
      stock: {
        follow(place, data) {
          const item = itemOf(data)
          const [track, length] = [trackFor(place, item), lengthOf(item)]
          const ghosts = track ? [{ trackId: track.id, start: place.start(length), length }] : []
          return { ghosts, words: `${item.title}: read in, then placed here`, refused: false }
        },
        drop(place, data) {
          const item = itemOf(data)
          const [trackId, start] = [trackFor(place, item)?.id ?? null, place.start(lengthOf(item))]
          const over = place.input.altKey
          // What was read in before is there already.
          const known = Object.values(project.document?.assets ?? {}).find((asset) => asset.name === item.name)
          if (known) return arrivals.expect({ ids: [known.id], trackId, start, over })
          importStock(project.id, item.name).then(
            (id) => {
              project.refreshSources()
              arrivals.expect({ ids: [id], trackId, start, over })
            },
            (error: Error) => notices.warn(error.message),
          )
        },
      },
    }
  },
})
