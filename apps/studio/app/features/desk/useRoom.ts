import { useLocalStorage } from '@vueuse/core'
import { computed, type Ref } from 'vue'
import { useDesk } from '~/features/timeline/deskStore'

/**
 * Parts of the desk in percent of what they lie in: across wide reels, in the columns of tall ones, and a gallery that
 * takes the whole height.
 */
const USUAL = { upper: 54, drawer: 22, details: 22, tallDrawer: 34, tallDetails: 19, tallViewer: 27, gallery: 27 }

/** An arrangement that was kept under a name. */
interface Arrangement {
  name: string
  sizes: typeof USUAL
  drawer: string | null
  drawerTall?: boolean
}

/** Pixels of the source strip that the upper half gives up while a source is watched; the timeline gives the rest. */
const GIVEN = 72

/** What Splitpanes says when panes were resized: by the person, where an event of theirs comes with it. */
interface Resized {
  event?: Event
  panes: { size: number }[]
}

/**
 * How large the parts of the desk are; remembered in this browser.
 * @param height of all of it, in pixels
 */
export function useRoom(height: Ref<number>, sourceOpen: () => boolean) {
  const desk = useDesk()
  const sizes = useLocalStorage('dusk.room', USUAL, { mergeDefaults: true })
  const arrangements = useLocalStorage<Arrangement[]>('dusk.arrangements', [])
  const given = computed(() => (sourceOpen() && height.value > 0 ? (GIVEN / height.value) * 100 : 0))
  /** Percent of the height for drawer, viewer and details. */
  const upper = computed(() => Math.max(25, sizes.value.upper - given.value))

  const keep = (changed: Partial<typeof USUAL>) => (sizes.value = { ...sizes.value, ...changed })
  const byPerson =
    (take: (panes: number[]) => void) =>
    ({ event, panes }: Resized) => {
      if (event) take(panes.map(({ size }) => size))
    }

  /** Part of the width that is left beside a gallery, 0 to 1. */
  const beside = (galleryOpen: boolean) => (galleryOpen ? 1 - sizes.value.gallery / 100 : 1)
  const details = (galleryOpen: boolean) => sizes.value.details / beside(galleryOpen)

  return {
    sizes,
    upper,
    /** Percent of the width for the details: as wide whether or not a gallery stands beside. */
    details,
    /** Percent of the width for the viewer between drawer and details. */
    middle: (drawerOpen: boolean, galleryOpen: boolean) =>
      100 - details(galleryOpen) - (drawerOpen ? sizes.value.drawer : 0),
    tallMiddle: () => 100 - sizes.value.tallDetails - sizes.value.tallViewer,
    keepUpper: byPerson(([top]) => keep({ upper: top! + given.value })),
    keepSides: (resized: Resized, drawerOpen: boolean, galleryOpen: boolean) =>
      byPerson((panes) =>
        keep({ details: panes.at(-1)! * beside(galleryOpen), ...(drawerOpen ? { drawer: panes[0]! } : {}) }),
      )(resized),
    keepTall: byPerson(([, details, viewer]) => keep({ tallDetails: details!, tallViewer: viewer! })),
    keepTallDrawer: (resized: Resized, drawerOpen: boolean) =>
      byPerson(([first]) => drawerOpen && keep({ tallDrawer: first! }))(resized),
    keepGallery: (resized: Resized, galleryOpen: boolean) =>
      byPerson(([first]) => galleryOpen && keep({ gallery: first! }))(resized),
    arrangements,
    /** Keeps sizes and the open drawer under a name; one of that name gives way. */
    save(name: string): void {
      const others = arrangements.value.filter((entry) => entry.name !== name)
      arrangements.value = [
        ...others,
        { name, sizes: { ...sizes.value }, drawer: desk.drawer, drawerTall: desk.drawerTall },
      ]
    },
    use(name: string): void {
      const found = arrangements.value.find((entry) => entry.name === name)
      if (!found) return
      sizes.value = { ...USUAL, ...found.sizes }
      desk.drawer = found.drawer
      desk.drawerTall = found.drawerTall ?? false
    },
    remove(name: string): void {
      arrangements.value = arrangements.value.filter((entry) => entry.name !== name)
    },
    /** Everything as it was at first. */
    reset(): void {
      sizes.value = { ...USUAL }
      desk.drawer = 'footage'
      desk.drawerTall = false
    },
  }
}
export type Room = ReturnType<typeof useRoom>
