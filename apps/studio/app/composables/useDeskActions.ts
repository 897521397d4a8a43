import {
  clipEnd,
  clipsOn,
  continues,
  Edit,
  frameToTicks,
  reelLength,
  secondsToTicks,
  sourceTimeAt,
  ticksPerFrame,
  tracksOf,
  withLinked,
  type Asset,
  type Clip,
  type CommandInput,
  type Marker,
  type PlaceMode,
} from '@dusk/timeline'
import { api } from '~/lib/api'
import { copyOf, keepCopied, planPaste, readCopied } from '~/lib/timeline/clipboard'
import { layOut, planPlace, type Part } from '~/lib/timeline/drop'
import { rowsOf } from '~/lib/timeline/layout'
import { useDesk } from '~/stores/desk'
import { useNotices } from '~/stores/notices'
import { useProject } from '~/stores/project'
import { useSource } from '~/stores/source'
import { useTitles } from '~/stores/titles'
import { useTransitions } from '~/stores/transitions'
import { usePlayer, usePlayhead } from './usePlayhead'

/** Length that a frozen frame gets, in seconds. */
const FREEZE_SECONDS = 2
const NO_SEED = '00000000-0000-4000-8000-000000000000'

/** A marker with its place in the reel that is shown; `clip` when it lies on one. */
export interface MarkerPlace {
  marker: Marker
  at: number
  clip: Clip | null
}

/** What buttons, keys and menus of the desk do. */
export function useDeskActions() {
  const project = useProject()
  const desk = useDesk()
  const source = useSource()
  const notices = useNotices()
  const player = usePlayer()
  const playhead = usePlayhead()

  const rate = () => project.reel?.format.rate ?? { num: 30, den: 1 }
  const length = () => (project.document ? reelLength(project.document, project.reelId) : 0)
  const rows = () => (project.document ? rowsOf(project.document, project.reelId) : [])

  /** Selected clips that are there, in time order. */
  function selected(): Clip[] {
    const found = [...desk.selection].map((id) => project.document?.clips[id]).filter((clip): clip is Clip => !!clip)
    return found.sort((a, b) => a.start - b.start)
  }

  /** The clip that a single-clip action means: the selected picture, else the selected clip, else what is in front. */
  function theClip(): Clip | null {
    const document = project.document
    if (!document) return null
    const clips = selected()
    const picture = clips.find((clip) => document.tracks[clip.trackId]?.kind === 'picture')
    return picture ?? clips[0] ?? frontClip()
  }

  /** The foremost picture under the playhead. */
  function frontClip(): Clip | null {
    const at = playhead.tick.value
    for (const { track } of rows()) {
      if (track.kind !== 'picture' || track.hidden) continue
      const clip = clipsOn(project.document!, track.id).find((entry) => entry.start <= at && clipEnd(entry) > at)
      if (clip) return clip
    }
    return null
  }

  /** Carries a command out on what is selected, or says what to do first. */
  function onSelected(make: (ids: string[]) => CommandInput, hint = 'Select a clip first.'): boolean {
    if (desk.selection.size === 0) {
      notices.say(hint)
      return false
    }
    return project.perform(make([...desk.selection]))
  }

  /** Cuts what is selected under the playhead; with nothing selected there, every track. */
  function split(everything = false): void {
    const at = playhead.tick.value
    const under = everything ? [] : selected().filter((clip) => clip.start < at && clipEnd(clip) > at)
    project.perform({ type: 'split', reelId: project.reelId, at, clipIds: under.length > 0 ? under.map((clip) => clip.id) : null }) // prettier-ignore
  }

  function remove(closeUp: boolean): void {
    const done = onSelected((clipIds) => ({ type: 'remove', clipIds, closeUp, scope: desk.scope, linked: desk.linked }))
    if (done) desk.select([], null)
  }

  /** Cuts the marked range out of the reel and closes up. */
  function cutRange(): void {
    const { range } = desk
    if (!range) return notices.say('Mark a range first: in and out, then cut it out.')
    const track = desk.scope === 'track' ? (selected()[0]?.trackId ?? null) : null
    if (desk.scope === 'track' && !track)
      return notices.say('Select a clip on the track to cut, or close up all tracks.')
    if (!project.perform({ type: 'cutOut', reelId: project.reelId, ...range, trackId: track, scope: desk.scope, closeUp: true })) return // prettier-ignore
    playhead.goTo(range.from)
    desk.range = null
  }

  function closeGaps(): void {
    const track = selected()[0]?.trackId ?? rows().filter((row) => row.track.kind === 'picture' && !row.track.locked).at(-1)?.track.id // prettier-ignore
    if (track) project.perform({ type: 'closeGaps', trackId: track, scope: desk.scope })
  }

  function join(): void {
    const document = project.document
    const clip = theClip()
    if (!document || !clip) return void notices.say('Select the halves to join.')
    const lane = clipsOn(document, clip.trackId)
    const place = lane.findIndex((entry) => entry.id === clip.id)
    const edit = new Edit(document, NO_SEED)
    const pair = [[clip, lane[place + 1]], [lane[place - 1], clip]].find(([a, b]) => a && b && continues(edit, a, b)) // prettier-ignore
    if (!pair) return void notices.say('This clip has no neighbour that it goes on into.')
    project.perform({ type: 'join', leftId: pair[0]!.id, rightId: pair[1]!.id })
  }

  /** Brings an edge of the selected clip, or of the one in front, to the playhead. */
  function trimHere(edge: 'start' | 'end', mode: 'plain' | 'ripple'): void {
    const clip = theClip()
    if (!clip) return void notices.say('Put the playhead on a clip first.')
    const trim = { type: 'trim', clipId: clip.id, edge, to: playhead.tick.value, mode, scope: desk.scope, linked: desk.linked } as const // prettier-ignore
    if (project.perform(trim) && mode === 'ripple' && edge === 'start') playhead.goTo(clip.start)
  }

  function freeze(): void {
    const clip = frontClip()
    if (!clip) return void notices.say('Put the playhead on a picture first.')
    project.perform({ type: 'freeze', clipId: clip.id, at: playhead.tick.value, length: FREEZE_SECONDS * 705_600_000, scope: desk.scope }) // prettier-ignore
  }

  function swap(side: 'next' | 'previous'): void {
    const clip = theClip()
    if (clip) project.perform({ type: 'swap', clipId: clip.id, with: side })
  }

  /** Lets the selected clips, or the one in front, come or go over the standard length. */
  function fade(edge: 'start' | 'end'): void {
    const clips = selected().length > 0 ? selected() : [theClip()].filter((clip) => clip !== null)
    if (clips.length === 0) return void notices.say('Select the clip to fade.')
    const length = secondsToTicks(useTransitions().preferences.seconds)
    const transitions = clips.map((clip) => ({
      id: crypto.randomUUID(),
      leftId: edge === 'end' ? clip.id : null,
      rightId: edge === 'start' ? clip.id : null,
      before: edge === 'end' ? Math.min(length, clip.length) : 0,
      after: edge === 'start' ? Math.min(length, clip.length) : 0,
      kind: clip.stream === null ? 'dissolve' : 'even',
      settings: {},
      missing: 'shorten' as const,
    }))
    project.perform({ type: 'addTransitions', transitions })
  }

  /** Moves what is selected by frames. */
  function nudge(frames: number): void {
    onSelected((clipIds) => ({ type: 'move', clipIds, by: frameToTicks(frames, rate()), mode: 'free', linked: desk.linked })) // prettier-ignore
  }

  function duplicate(): void {
    onSelected((clipIds) => ({ type: 'duplicate', clipIds, linked: desk.linked }))
  }

  function copy(): boolean {
    if (!project.document || desk.selection.size === 0) {
      notices.say('Select a clip first.')
      return false
    }
    keepCopied(copyOf(project.document, desk.selection))
    return true
  }

  function cut(): void {
    if (copy()) remove(false)
  }

  /** Pastes at the playhead. Sources of another project are brought in first. */
  async function paste(mode: PlaceMode): Promise<void> {
    const copied = readCopied()
    if (!copied || !project.document) return notices.say('Nothing was copied yet.')
    if (copied.projectId !== project.id) {
      if (copied.clips.some((clip) => clip.kind === 'reel'))
        return notices.warn('A nested reel can’t be pasted into another project. Paste its clips instead.')
      const assetIds = [...new Set(copied.clips.map((clip) => (clip.kind === 'media' ? clip.assetId : '')))]
      try {
        const { ids } = await api<{ ids: Record<string, string> }>(`/projects/${project.id}/adopt`, 'POST', { fromProject: copied.projectId, assetIds }) // prettier-ignore
        await project.reconnect()
        copied.clips = copied.clips.map((clip) => (clip.kind === 'media' ? { ...clip, assetId: ids[clip.assetId] ?? clip.assetId } : clip)) // prettier-ignore
      } catch (error) {
        return notices.warn((error as Error).message)
      }
    }
    const plan = planPaste(copied, project.document, project.reelId, playhead.tick.value, mode)
    if (typeof plan === 'string') return notices.warn(plan)
    if (project.perform(plan.command)) playhead.goTo(plan.end)
  }

  /** Links what is selected; linked clips are untied. */
  function toggleLink(): void {
    const clips = selected()
    if (clips.length > 0 && clips.every((clip) => clip.link))
      project.perform({ type: 'unlink', clipIds: clips.map((clip) => clip.id) })
    else if (clips.length < 2) notices.say('Select the clips to link, such as a picture and a sound.')
    else project.perform({ type: 'link', clipIds: clips.map((clip) => clip.id) })
  }

  /** Unties the sound of what is selected, and leaves the sound selected. */
  function detachSound(): void {
    const document = project.document
    if (!document) return
    const sounds = withLinked(document, desk.selection).filter((id) => document.clips[id]!.stream !== null)
    if (sounds.length === 0) return notices.say('There is no linked sound here.')
    if (project.perform({ type: 'unlink', clipIds: sounds })) desk.selection = new Set(sounds)
  }

  function nest(): void {
    const reelId = crypto.randomUUID()
    const count = Object.keys(project.document?.reels ?? {}).length
    onSelected((clipIds) => ({ type: 'nest', clipIds, reelId, name: `Reel ${count + 1}` }))
  }

  function unnest(): void {
    const shell = selected().find((clip) => clip.kind === 'reel')
    if (!shell) return notices.say('Select a nested reel first.')
    project.perform({ type: 'unnest', clipId: shell.id })
  }

  /** Opens a source in the viewer, at a source time when one is given. */
  function openSource(assetId: string, at: number | null = null): void {
    player.pause()
    source.open(assetId, playhead.tick.value, player.tick.value)
    if (at !== null) source.startAt = at
  }

  /** Opens the source of a clip where the clip shows it. */
  function openSourceOf(clip: Clip): void {
    if (clip.kind === 'reel') {
      project.reelId = clip.nestedId
      return
    }
    if (clip.kind !== 'media') {
      const { tick } = playhead
      if (tick.value < clip.start || tick.value >= clipEnd(clip)) playhead.goTo(clip.start)
      if (clip.kind === 'title') useTitles().editing = clip.id
      return
    }
    const at = Math.min(Math.max(playhead.tick.value, clip.start), clipEnd(clip) - 1)
    openSource(clip.assetId, sourceTimeAt(clip, at))
    source.from = sourceTimeAt(clip, clip.start)
    source.to = sourceTimeAt(clip, clipEnd(clip))
  }

  function closeSource(): void {
    if (!source.assetId) return
    player.pause()
    source.close(player.tick.value)
  }

  /** Marks in the source that is open, else in the reel. */
  function mark(edge: 'in' | 'out'): void {
    if (source.assetId) {
      // The out mark keeps the frame that is shown: the part ends behind it.
      const frame = edge === 'out' ? ticksPerFrame(source.reel!.rate) : 0
      source.mark(edge, player.tick.value + frame)
    } else desk.markRange(edge, playhead.tick.value, length())
  }

  function clearMarks(): void {
    if (source.assetId) source.from = source.to = null
    else desk.range = null
  }

  function keepPick(): void {
    const { asset, range } = source
    if (!asset) return notices.say('Open a source and mark a part of it first.')
    const name = `Part ${source.picks.length + 1}`
    project.perform({ type: 'addPick', pick: { id: crypto.randomUUID(), assetId: asset.id, name, ...range } })
  }

  /**
   * The part to place and where: three points decide. A marked range of the reel gives the place, and the length too
   * where the source's end is not marked.
   */
  function threePoints(asset: Asset): { part: Part; start: number } {
    const open = source.asset?.id === asset.id
    const from = open ? source.range.from : 0
    const given = open && source.to !== null ? source.to - from : null
    const whole = asset.kind === 'still' ? undefined : asset.length - from
    const room = desk.range ? desk.range.to - desk.range.from : undefined
    const long = given ?? (room === undefined ? whole : Math.min(room, whole ?? room))
    const start = desk.range?.from ?? playhead.tick.value
    return { part: { asset, from, length: long, use: open ? source.parts : 'both' }, start }
  }

  /** Puts the open source, or the ones given, into the reel. */
  function use(how: 'insert' | 'over' | 'append' | 'stack', asset = source.asset): void {
    const document = project.document
    if (!document || !asset) return notices.say('Open a source first: double-click one in the library.')
    const { part, start } = threePoints(asset)
    const target = how === 'stack' ? null : (document.tracks[selected()[0]?.trackId ?? ''] ?? null)
    const fits = target && target.reelId === project.reelId && !target.locked ? target : null
    const laid = layOut(document, rows(), [part], fits, start)
    if (typeof laid === 'string') return notices.warn(laid)
    const { pieces } = laid
    const command: CommandInput =
      how === 'append' ? { type: 'append', pieces }
      : how === 'stack' ? { type: 'stackAbove', pieces }
      : { type: 'place', pieces, mode: how } // prettier-ignore
    if (!project.perform(command)) return
    const placed = project.document?.clips[pieces[0]!.clipId]
    if (placed) {
      desk.select([placed.id], project.document)
      // The next one goes behind this one.
      if (source.assetId) source.parked = clipEnd(placed)
      else playhead.goTo(clipEnd(placed))
    }
  }

  function replace(asset = source.asset): void {
    const clip = selected()[0]
    if (!asset || !clip) return notices.say('Select the clip to replace, and open the source for it.')
    const from = source.asset?.id === asset.id ? source.range.from : 0
    project.perform({ type: 'replace', clipId: theClip()!.id, assetId: asset.id, source: from, linked: desk.linked })
  }

  function addToEnd(assetId: string): void {
    const document = project.document
    const asset = document?.assets[assetId]
    if (!document || !asset) return
    const at = asset.kind === 'sound' ? playhead.tick.value : length()
    const plan = planPlace(document, rows(), [{ asset }], null, at, false)
    if (plan.command) project.perform(plan.command)
    else notices.warn(plan.words)
  }

  /** Lays stills behind the last clip, each for as many frames of the reel: a run of pictures becomes stop motion. */
  function addRun(assets: readonly Asset[], frames: number): void {
    const document = project.document
    if (!document) return
    const parts = assets.map((asset) => ({ asset, length: frameToTicks(frames, rate()) }))
    const laid = layOut(document, rows(), parts, null, 0)
    if (typeof laid === 'string') return notices.warn(laid)
    if (project.perform({ type: 'append', pieces: laid.pieces }))
      desk.select(laid.pieces.map((piece) => piece.clipId), project.document) // prettier-ignore
  }

  function addMarker(): void {
    const clip = desk.selection.size === 1 ? selected()[0] : undefined
    const at = playhead.tick.value
    const inside = clip && at >= clip.start && at < clipEnd(clip)
    const count = Object.keys(project.document?.markers ?? {}).length
    const place = inside ? { reelId: null, clipId: clip.id, at: clip.head + at - clip.start } : { reelId: project.reelId, clipId: null, at } // prettier-ignore
    project.perform({ type: 'addMarkers', markers: [{ id: crypto.randomUUID(), ...place, length: 0, name: `Marker ${count + 1}`, colour: 'lamp', note: '' }] }) // prettier-ignore
  }

  /** Goes to the next or previous marker of the reel or of a clip in it. */
  function jumpMarker(direction: 1 | -1): void {
    const now = playhead.tick.value
    const places = markerPlaces().map(({ at }) => at).filter((at) => (direction > 0 ? at > now : at < now)) // prettier-ignore
    if (places.length > 0) playhead.goTo(direction > 0 ? Math.min(...places) : Math.max(...places))
  }

  /** Markers seen in this reel with their places in it. */
  function markerPlaces(): MarkerPlace[] {
    const document = project.document
    if (!document) return []
    return Object.values(document.markers).flatMap((marker): MarkerPlace[] => {
      if (marker.reelId === project.reelId) return [{ marker, at: marker.at, clip: null }]
      const clip = marker.clipId ? document.clips[marker.clipId] : undefined
      if (!clip || document.tracks[clip.trackId]?.reelId !== project.reelId) return []
      const at = clip.start + marker.at - clip.head
      return at >= clip.start && at < clipEnd(clip) ? [{ marker, at, clip }] : []
    })
  }

  function selectAll(): void {
    const document = project.document
    if (!document) return
    const tracks = new Set(tracksOf(document, project.reelId).map((track) => track.id))
    desk.select(Object.values(document.clips).filter((clip) => tracks.has(clip.trackId)).map((clip) => clip.id), document) // prettier-ignore
  }

  /** Everything that begins at or after the first selected clip, or the playhead. */
  function selectOnwards(): void {
    const document = project.document
    if (!document) return
    const from = selected()[0]?.start ?? playhead.tick.value
    const tracks = new Set(tracksOf(document, project.reelId).filter((track) => !track.locked).map((track) => track.id)) // prettier-ignore
    desk.select(Object.values(document.clips).filter((clip) => tracks.has(clip.trackId) && clip.start >= from).map((clip) => clip.id), document) // prettier-ignore
  }

  /** Goes to the next or previous edge of a clip. */
  function jump(direction: 1 | -1): void {
    const document = project.document
    if (!document) return
    const now = playhead.tick.value
    const tracks = new Set(tracksOf(document, project.reelId).map((track) => track.id))
    let best: number | null = direction < 0 ? 0 : null
    for (const clip of Object.values(document.clips)) {
      if (!tracks.has(clip.trackId)) continue
      for (const edge of [clip.start, clipEnd(clip)])
        if (direction > 0 ? edge > now && (best === null || edge < best) : edge < now && edge > (best ?? -1))
          best = edge
    }
    if (best !== null) playhead.goTo(best)
  }

  function fit(): void {
    desk.fit(length())
  }

  function fitSelection(): void {
    const clips = selected()
    if (clips.length === 0) return fit()
    desk.fit(Math.max(...clips.map(clipEnd)), clips[0]!.start)
  }

  return {
    selected, theClip, onSelected, split, remove, cutRange, closeGaps, join, trimHere, freeze, fade, swap, nudge, duplicate, copy, cut,
    paste, toggleLink, detachSound, nest, unnest, openSource, openSourceOf, closeSource, mark, clearMarks, keepPick, use, replace,
    addToEnd, addRun, addMarker, jumpMarker, markerPlaces, selectAll, selectOnwards, jump, fit, fitSelection,
  } // prettier-ignore
}
