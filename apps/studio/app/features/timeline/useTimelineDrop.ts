import { dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { dropTargetForExternal } from '@atlaskit/pragmatic-drag-and-drop/external/adapter'
import { containsFiles } from '@atlaskit/pragmatic-drag-and-drop/external/file'
import { combine } from '@atlaskit/pragmatic-drag-and-drop/combine'
import { useIntervalFn } from '@vueuse/core'
import { onBeforeUnmount, onMounted, type Ref } from 'vue'
import { snapToFrame } from '@dusk/timeline'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { useFeatures, type DropPlace, type TimelineDrop } from '~/features/registry/feature'
import { useDesk } from './deskStore'
import { STILL_LENGTH } from './drop'
import { rowAt, type Row } from './layout'
import { snapTargets } from './snapping'
import { SCROLL_MS, type DragSession } from './useDragSession'

type Input = { clientX: number; clientY: number; altKey: boolean; ctrlKey: boolean }

/** Drops onto the timeline: what each kind of thing does there is the business of its feature. */
export function useTimelineDrop(body: Ref<HTMLElement | null>, rows: Ref<readonly Row[]>, session: DragSession): void {
  const project = useProject()
  const desk = useDesk()
  const playhead = usePlayhead()
  const features = useFeatures()
  const drops = new Map<string, TimelineDrop>(features.flatMap((feature) => Object.entries(feature.useDrops?.() ?? {})))
  const takesFiles = features.flatMap((feature) => feature.useFileDrop?.(rows) ?? [])

  function placeAt(input: Input): DropPlace {
    const at = session.local(input)
    const tick = Math.max(0, desk.toTick(at.x))
    const start = (length: number) => {
      const targets = snapTargets(project.document!, project.reelId, new Set(), playhead.now())
      const stuck = tick + session.stick([tick, tick + length], targets, input)
      return snapToFrame(Math.max(0, stuck), project.reel!.format.rate)
    }
    return { at, start, track: rowAt(rows.value, at.y + desk.scrollY)?.track ?? null, rows: rows.value, input }
  }

  function show(place: DropPlace, data: Record<string, unknown>): void {
    const preview = drops.get(String(data.kind))?.follow(place, data)
    session.ghosts.value = preview?.ghosts ?? []
    session.bad.value = preview?.refused ?? false
    session.label.value = preview ? { words: preview.words, bad: preview.refused, ...place.at } : null
  }

  function showFiles({ at, start, track }: DropPlace): void {
    // How long what is in the files is, nobody can tell yet.
    session.ghosts.value = track ? [{ trackId: track.id, start: start(0), length: STILL_LENGTH }] : []
    session.label.value = { words: 'read in, then place here', bad: false, ...at }
  }

  /** Shows what is dragged where it was last; at an edge what lies beyond comes into sight meanwhile. */
  let again = () => {}
  let last: Input | null = null
  const edges = useIntervalFn(() => last && session.scrollAt(session.local(last)) && again(), SCROLL_MS, {
    immediate: false,
  })
  function follow(input: Input, draw: (place: DropPlace) => void): void {
    last = input
    again = () => draw(placeAt(input))
    again()
    if (!edges.isActive.value) edges.resume()
  }
  function leave(): void {
    edges.pause()
    session.clear()
  }

  let stop = () => {}
  onMounted(() => {
    const element = body.value!
    stop = combine(
      dropTargetForElements({
        element,
        canDrop: ({ source }) => drops.has(String(source.data.kind)),
        onDrag: ({ source, location }) => follow(location.current.input, (place) => show(place, source.data)),
        onDragLeave: leave,
        onDrop({ source, location }) {
          const place = placeAt(location.current.input)
          drops.get(String(source.data.kind))?.drop(place, source.data)
          leave()
        },
      }),
      dropTargetForExternal({
        element,
        canDrop: containsFiles,
        onDrag: ({ location }) => follow(location.current.input, showFiles),
        onDragLeave: leave,
        onDrop({ source, location }) {
          leave()
          const { start, track, input } = placeAt(location.current.input)
          // Read at once: what was dropped is gone after this turn.
          const items = source.items as unknown as DataTransferItemList
          for (const take of takesFiles) take(items, track?.id ?? null, start(0), input.altKey)
        },
      }),
    )
  })
  onBeforeUnmount(() => stop())
}
