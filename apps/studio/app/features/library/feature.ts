import Clapperboard from '@lucide/vue/dist/esm/icons/clapperboard.mjs'
import { useProject } from '~/features/project/projectStore'
import { defineFeature, type DropPlace } from '~/features/registry/feature'
import { useAim } from '~/features/timeline/aimStore'
import { planPlace, STILL_LENGTH, type DraggedParts, type DropPlan, type Part } from '~/features/timeline/drop'
import { useNotices } from '~/features/ui/noticesStore'
import AssetDetails from './AssetDetails.vue'
import { droppedFiles } from './droppedFiles'
import FootageDrawer from './FootageDrawer.vue'
import { useFilesPlaced } from './useFilesPlaced'

const lengthOf = (part: Part) =>
  part.length ?? (part.asset.kind === 'still' ? STILL_LENGTH : part.asset.length - (part.from ?? 0))

/** The project's sources. */
export const library = defineFeature({
  id: 'library',
  drawer: { id: 'footage', label: 'Footage', icon: Clapperboard, component: FootageDrawer, order: 10 },
  details: [{ order: 30, component: AssetDetails, props: ({ assets }) => (assets.length > 0 ? { assets } : null) }],
  useFileDrop(rows) {
    const { acceptFiles } = useFilesPlaced(rows)
    return (items, trackId, start, over) =>
      void droppedFiles({ items, files: [] as unknown as FileList }).then((files) => {
        if (files.length > 0) acceptFiles(files, trackId, start, over)
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

    return {
      parts: {
        follow(place, data) {
          const parts = partsOf(data)
          const plan = planAt(place, parts)
          if (!plan) return null
          const many = parts.length > 1 ? `${parts.length} clips: ` : ''
          return { ghosts: plan.ghosts, words: many + plan.words, refused: !plan.command }
        },
        drop(place, data) {
          const plan = planAt(place, partsOf(data))
          if (plan?.command) project.perform(plan.command)
          else if (plan) notices.warn(plan.words)
        },
      },
    }
  },
})
