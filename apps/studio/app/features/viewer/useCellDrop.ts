import { dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { onBeforeUnmount, onMounted, ref, type Ref } from 'vue'
import { tracksOf, type Clip } from '@dusk/timeline'
import { useAim } from '~/features/timeline/aimStore'
import { layOut, type Part } from '~/features/timeline/drop'
import { rowsOf } from '~/features/timeline/layout'
import { isCell, planIntoCell } from './cells'
import { covers, type Outline } from '~/features/timeline/outlines'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import { usePlayhead } from '~/features/player/usePlayhead'
import type { DraggedParts } from '~/features/timeline/drop'

/** Drops of footage on the picture: onto a cell of a split screen it fills the cell, elsewhere it goes in front. */
export function useCellDrop(frame: Ref<HTMLElement | null>, seen: Ref<readonly Outline[]>, scale: Ref<number>) {
  const project = useProject()
  const notices = useNotices()
  const aim = useAim()
  const playhead = usePlayhead()
  const over = ref<Outline | null>(null)
  const words = ref('')

  function cellAt({ clientX, clientY }: { clientX: number; clientY: number }): Outline | null {
    const box = frame.value!.getBoundingClientRect()
    const at = [(clientX - box.left) / scale.value, (clientY - box.top) / scale.value] as const
    const top = [...seen.value].reverse().find((outline) => covers(outline, ...at))
    return top && isCell(top.clip) ? top : null
  }

  function drop(cell: Clip | null, { parts: [first] }: DraggedParts): void {
    const { document } = project
    const asset = first && document?.assets[first.assetId]
    if (!asset || !document) return
    if (cell) {
      const plan = planIntoCell(document, cell, asset, first.from, first.length)
      if (typeof plan === 'string') notices.warn(plan)
      else project.perform(plan)
      return
    }
    const front = tracksOf(document, project.reelId)
      .filter((track) => track.kind === 'picture' && !track.locked)
      .at(-1)
    const part: Part = { ...first, asset }
    const laid = layOut(
      document,
      rowsOf(document, project.reelId),
      [part],
      { ...aim.destination(asset.picture ? (front ?? null) : null), room: true },
      playhead.now(),
    )
    // What is in front there already stays: this goes above it.
    if (typeof laid === 'string') notices.warn(laid)
    else project.perform({ type: 'stackAbove', pieces: laid.pieces })
  }

  const leave = () => {
    over.value = null
    words.value = ''
  }
  let stop = () => {}
  onMounted(() => {
    stop = dropTargetForElements({
      element: frame.value!,
      canDrop: ({ source }) => source.data.kind === 'parts',
      onDrag: ({ location }) => {
        over.value = cellAt(location.current.input)
        words.value = over.value ? 'goes into this cell' : 'goes in front, at the playhead'
      },
      onDragLeave: leave,
      onDrop: ({ source, location }) => {
        const cell = cellAt(location.current.input)
        leave()
        drop(cell?.clip ?? null, source.data as unknown as DraggedParts)
      },
    })
  })
  onBeforeUnmount(() => stop())
  return { over, words }
}
