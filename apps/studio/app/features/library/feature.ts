import Clapperboard from '@lucide/vue/dist/esm/icons/clapperboard.mjs'
import { useProject } from '~/features/project/projectStore'
import { defineFeature, type DropPlace, type TimelineDrop } from '~/features/registry/feature'
import { useAim } from '~/features/timeline/aimStore'
import {
  partOfReel,
  planPlace,
  STILL_LENGTH,
  type DraggedParts,
  type DropPlan,
  type Part,
} from '~/features/timeline/drop'
import { useNotices } from '~/features/ui/noticesStore'
import { useArrivals } from './arrivalsStore'
import AssetDetails from './AssetDetails.vue'
import { droppedFiles } from './droppedFiles'
import FootageDrawer from './FootageDrawer.vue'
import GivenFile from './GivenFile.vue'
import { missingIn, missingWords } from './missingSources'
import MissingSources from './MissingSources.vue'
import { useUploads } from './uploadsStore'

const lengthOf = (part: Part) =>
  part.length ?? (part.asset.kind === 'still' ? STILL_LENGTH : part.asset.length - (part.from ?? 0))

/** The project's sources. */
export const library = defineFeature({
  id: 'library',
  drawer: { id: 'footage', label: 'Footage', icon: Clapperboard, component: FootageDrawer, order: 10, gallery: true },
  details: [{ order: 30, component: AssetDetails, props: ({ assets }) => (assets.length > 0 ? { assets } : null) }],
  viewerHead: MissingSources,
  desk: GivenFile,
  useBeforeRender() {
    const project = useProject()
    return async (reelId) => {
      const names = project.document ? missingIn(project.document, reelId, project.sources) : []
      return names.length > 0 ? [`${missingWords(names)}. The render can’t be made before they are there.`] : []
    }
  },
  useFileDrop() {
    const project = useProject()
    const uploads = useUploads()
    const notices = useNotices()
    const arrivals = useArrivals()
    return (items, trackId, start, over) =>
      void droppedFiles({ items, files: [] as unknown as FileList }).then((files) => {
        if (files.length === 0) return
        // Several stills and clips at once go in the order of their names, as a person sees them in a folder.
        const sorted = [...files].sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }))
        arrivals.expect({ ids: sorted.map((file) => uploads.begin(file, project.id)), trackId, start, over })
        notices.say(
          sorted.length === 1
            ? `${sorted[0]!.name} is placed as soon as it is read in.`
            : `${sorted.length} files are placed as soon as they are read in.`,
        )
      })
  },
  useDrops() {
    const project = useProject()
    const notices = useNotices()
    const aim = useAim()

    function partsOf(data: Record<string, unknown>): Part[] {
      const { parts } = data as unknown as DraggedParts
      return parts.flatMap(({ assetId, ...rest }) => {
        const asset = project.document?.assets[assetId]
        return asset ? [{ asset, ...rest }] : []
      })
    }

    function planAt({ start, track, rows, input }: DropPlace, parts: readonly Part[]): DropPlan | null {
      if (!project.document || parts.length === 0) return null
      const place = start(parts.reduce((sum, part) => sum + lengthOf(part), 0))
      return planPlace(project.document, rows, parts, aim.destination(track), place, input.altKey)
    }

    function reelAt(place: DropPlace, data: Record<string, unknown>): DropPlan | null {
      const part = partOfReel(project.document!, String(data.reelId), project.reelId)
      return typeof part === 'string' ? { command: null, words: part, ghosts: [] } : planAt(place, [part])
    }

    const dropOf = (
      planOf: (place: DropPlace, data: Record<string, unknown>) => DropPlan | null,
      count: (data: Record<string, unknown>) => number,
    ): TimelineDrop => ({
      follow(place, data) {
        const plan = planOf(place, data)
        if (!plan) return null
        const many = count(data) > 1 ? `${count(data)} clips: ` : ''
        return { ghosts: plan.ghosts, words: many + plan.words, refused: !plan.command }
      },
      drop(place, data) {
        const plan = planOf(place, data)
        if (plan?.command) project.perform(plan.command)
        else if (plan) notices.warn(plan.words)
      },
    })

    return {
      parts: dropOf(
        (place, data) => planAt(place, partsOf(data)),
        (data) => partsOf(data).length,
      ),
      reel: dropOf(reelAt, () => 1),
    }
  },
})
