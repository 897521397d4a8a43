import { draggable, dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { onBeforeUnmount, onMounted, ref, type Ref } from 'vue'
import { tracksOf, type Project, type Track } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'

/**
 * The command that puts a track beside another of its kind, as they are listed on the desk: pictures from front to
 * back, sounds downwards.
 * @returns `null` where it would stay where it is
 */
export function putBeside(project: Project, track: Track, target: Track, side: 'above' | 'below') {
  if (target.kind !== track.kind || target.id === track.id) return null
  const kin = tracksOf(project, track.reelId).filter((other) => other.kind === track.kind)
  const listed = track.kind === 'picture' ? [...kin].reverse() : kin
  const others = listed.filter((other) => other.id !== track.id)
  const place = others.findIndex((other) => other.id === target.id) + (side === 'below' ? 1 : 0)
  if (listed[place]?.id === track.id) return null
  // `after` is the one it comes behind in the document: the row above for sounds, the row below for pictures.
  const after = track.kind === 'picture' ? others[place] : others[place - 1]
  return { type: 'moveTrack' as const, trackId: track.id, after: after?.id ?? null }
}

/**
 * Heads of tracks are dragged above or below others of their kind.
 * @param head all of it, which takes what is dropped
 * @param handle what it is taken by
 * @returns the side on which a dragged track would come to lie
 */
export function useHeadDrag(
  head: Ref<HTMLElement | null>,
  handle: Ref<HTMLElement | null>,
  track: () => Track,
): Ref<'above' | 'below' | null> {
  const project = useProject()
  const side = ref<'above' | 'below' | null>(null)
  const stops: (() => void)[] = []
  const dragged = (data: Record<string, unknown>) => project.document?.tracks[String(data.trackId)]
  const sideAt = (clientY: number) => {
    const { top, height } = head.value!.getBoundingClientRect()
    return clientY < top + height / 2 ? ('above' as const) : ('below' as const)
  }
  onMounted(() => {
    if (!head.value || !handle.value) return
    stops.push(
      draggable({
        element: head.value,
        dragHandle: handle.value,
        getInitialData: () => ({ kind: 'track', trackId: track().id }),
      }),
      dropTargetForElements({
        element: head.value,
        canDrop: ({ source }) => source.data.kind === 'track' && dragged(source.data)?.kind === track().kind,
        onDrag: ({ source, location }) => {
          const over = sideAt(location.current.input.clientY)
          const from = dragged(source.data)
          side.value = from && putBeside(project.document!, from, track(), over) ? over : null
        },
        onDragLeave: () => (side.value = null),
        onDrop: ({ source, location }) => {
          side.value = null
          const from = dragged(source.data)
          const command = from && putBeside(project.document!, from, track(), sideAt(location.current.input.clientY))
          if (command) project.perform(command)
        },
      }),
    )
  })
  onBeforeUnmount(() => stops.forEach((stop) => stop()))
  return side
}
