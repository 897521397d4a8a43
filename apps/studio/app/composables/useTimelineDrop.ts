import { dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { dropTargetForExternal } from '@atlaskit/pragmatic-drag-and-drop/external/adapter'
import { containsFiles } from '@atlaskit/pragmatic-drag-and-drop/external/file'
import { combine } from '@atlaskit/pragmatic-drag-and-drop/combine'
import { onBeforeUnmount, onMounted, watch, type Ref } from 'vue'
import { snapToFrame, type Asset } from '@dusk/timeline'
import { droppedFiles } from '~/lib/droppedFiles'
import { layOut, planPlace, STILL_LENGTH, type DropPlan, type Part } from '~/lib/timeline/drop'
import { rowAt, type Row } from '~/lib/timeline/layout'
import { planMade, type Made } from '~/lib/titles/made'
import { snapTargets } from '~/lib/timeline/snapping'
import { useDesk } from '~/stores/desk'
import { useNotices } from '~/stores/notices'
import { useProject } from '~/stores/project'
import { useUploads } from '~/stores/uploads'
import type { DragSession } from './useDragSession'
import { usePlayhead } from './usePlayhead'
import { useGenerated } from './useGenerated'
import { useTransitionDrop } from './useTransitionDrop'

/** What is dragged from the library, a source strip or a pick: sources, each whole or a part of it. */
export interface DraggedParts {
  kind: 'parts'
  parts: { assetId: string; from?: number; length?: number; use?: Part['use'] }[]
}

type Input = { clientX: number; clientY: number; altKey: boolean; ctrlKey: boolean }

/** Drops onto the timeline: sources of the library, and files from the desktop, which are read in first. */
export function useTimelineDrop(body: Ref<HTMLElement | null>, rows: Ref<Row[]>, session: DragSession): void {
  const project = useProject()
  const desk = useDesk()
  const notices = useNotices()
  const uploads = useUploads()
  const playhead = usePlayhead()
  /** Files dropped here and still read in: when the last of them is there, they are placed in the order they came. */
  let waiting: { ids: string[]; trackId: string | null; start: number; over: boolean }[] = []
  let plan: DropPlan | null = null
  const transition = useTransitionDrop(rows, session)
  const made = useGenerated()

  function partsOf(data: Record<string, unknown>): Part[] {
    const { parts } = data as unknown as DraggedParts
    return parts.flatMap(({ assetId, ...rest }) => {
      const asset = project.document?.assets[assetId]
      return asset ? [{ asset, ...rest }] : []
    })
  }

  const lengthOf = (part: Part) =>
    part.length ?? (part.asset.kind === 'still' ? STILL_LENGTH : part.asset.length - (part.from ?? 0))

  function placeAt(input: Input, long: number) {
    const box = body.value!.getBoundingClientRect()
    const at = { x: input.clientX - box.left, y: input.clientY - box.top }
    const tick = Math.max(0, desk.toTick(at.x))
    const targets = snapTargets(project.document!, project.reelId, new Set(), playhead.now())
    const stuck = tick + session.stick([tick, tick + long], targets, input)
    const start = snapToFrame(Math.max(0, stuck), project.reel!.format.rate)
    return { at, start, track: rowAt(rows.value, at.y + desk.scrollY)?.track ?? null }
  }

  function follow(input: Input, parts: readonly Part[]): void {
    if (!project.document || parts.length === 0) return
    const { at, start, track } = placeAt(
      input,
      parts.reduce((sum, part) => sum + lengthOf(part), 0),
    )
    plan = planPlace(project.document, rows.value, parts, track, start, input.altKey)
    session.ghosts.value = plan.ghosts
    session.bad.value = !plan.command
    const many = parts.length > 1 ? `${parts.length} clips: ` : ''
    session.label.value = { words: many + plan.words, bad: !plan.command, ...at }
  }

  /** A title or shape from the gallery: shows the track that has room for it. */
  function followMade(input: Input, data: Record<string, unknown>): void {
    const length = Number(data.length)
    const { at, start, track } = placeAt(input, length)
    const to = planMade(project.document!, project.reelId, data.made as Made, start, length, track?.id ?? null)
    session.ghosts.value = [
      { trackId: to.command.newTrack ? (track?.id ?? '') : to.trackId, start: to.start, length: to.length },
    ]
    session.bad.value = false
    session.label.value = { words: `${String(data.name)} ${to.words}`, bad: false, ...at }
  }

  /** Several stills and clips at once go in the order of their names, as a person sees them in a folder. */
  function acceptFiles(files: readonly File[], input: Input): void {
    const { start, track } = placeAt(input, 0)
    const sorted = [...files].sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }))
    const ids = sorted.map((file) => uploads.begin(file, project.id))
    waiting.push({ ids, trackId: track?.id ?? null, start, over: input.altKey })
    notices.say(
      ids.length === 1
        ? `${sorted[0]!.name} is placed as soon as it is read in.`
        : `${ids.length} files are placed as soon as they are read in.`,
    )
  }

  /** Places what was dropped once the document knows every file of it that can be read. */
  watch(
    // Upload states one by one: to be told of any change deep within would mean looking through the whole document.
    [
      () => project.document,
      () => project.pendingImports,
      () => uploads.list.map(({ state }) => state).join(),
      () => uploads.cancelled.join(),
    ],
    () => {
      const document = project.document
      if (!document || waiting.length === 0) return
      waiting = waiting.filter((drop) => {
        const given = (id: string) => document.assets[uploads.idOf(id)]
        const failed = (id: string) =>
          uploads.cancelled.includes(id) ||
          project.pendingImports.some((entry) => entry.id === uploads.idOf(id) && entry.state === 'failed') ||
          uploads.list.some((entry) => entry.id === id && entry.state === 'failed')
        if (drop.ids.some((id) => !given(id) && !failed(id))) return true
        const assets = drop.ids.map(given).filter((asset): asset is Asset => !!asset)
        const target = drop.trackId ? (document.tracks[drop.trackId] ?? null) : null
        if (assets.length === 0) return false
        const parts = assets.map((asset) => ({ asset }))
        const laid = layOut(document, rows.value, parts, target, drop.start)
        if (typeof laid === 'string') notices.warn(laid)
        else {
          const placed = planPlace(document, rows.value, parts, target, drop.start, drop.over)
          if (placed.command) project.perform(placed.command)
          else notices.warn(placed.words)
        }
        return false
      })
    },
  )

  let stop = () => {}
  onMounted(() => {
    const element = body.value!
    const finish = () => {
      plan = null
      session.clear()
    }
    stop = combine(
      dropTargetForElements({
        element,
        canDrop: ({ source }) => ['parts', 'transition', 'made'].includes(String(source.data.kind)),
        onDrag: ({ source, location }) => {
          const { input } = location.current
          if (source.data.kind === 'transition') transition.follow(placeAt(input, 0).at, String(source.data.id))
          else if (source.data.kind === 'made') followMade(input, source.data)
          else follow(input, partsOf(source.data))
        },
        onDragLeave: finish,
        onDrop: ({ source, location }) => {
          if (source.data.kind === 'transition') {
            transition.follow(placeAt(location.current.input, 0).at, String(source.data.id))
            finish()
            return transition.drop()
          }
          if (source.data.kind === 'made') {
            const { start, track } = placeAt(location.current.input, Number(source.data.length))
            finish()
            made.put(source.data.made as Made, Number(source.data.length), start, track?.id ?? null)
            return
          }
          follow(location.current.input, partsOf(source.data))
          const now = plan
          finish()
          if (now?.command) project.perform(now.command)
          else if (now) notices.warn(now.words)
        },
      }),
      dropTargetForExternal({
        element,
        canDrop: containsFiles,
        onDrag: ({ location }) => {
          const { at, start, track } = placeAt(location.current.input, 0)
          session.ghosts.value = track ? [{ trackId: track.id, start, length: STILL_LENGTH }] : []
          session.label.value = { words: 'read in, then place here', bad: false, ...at }
        },
        onDragLeave: finish,
        onDrop: ({ source, location }) => {
          finish()
          const { input } = location.current
          // Read at once: what was dropped is gone after this turn.
          const items = source.items as unknown as DataTransferItemList
          void droppedFiles({ items, files: [] as unknown as FileList }).then((files) => {
            if (files.length > 0) acceptFiles(files, input)
          })
        },
      }),
    )
  })
  onBeforeUnmount(() => stop())
}
