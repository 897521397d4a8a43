import {
  clipEnd,
  clipsOn,
  continues,
  Edit,
  formatSeconds,
  frameToTicks,
  snapToSample,
  TICKS_PER_SECOND,
  tracksOf,
  withLinked,
  type Clip,
  type PlaceMode,
  type Project,
  type Track,
} from '@dusk/timeline'
import { api } from '~/features/ui/api'
import { copyOf, keepCopied, planPaste, readCopied, sourcesOf, withSources } from './clipboard'
import { tried } from '~/features/project/tried'
import { useAim } from './aimStore'
import { useDesk } from './deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useSelection } from './useSelection'

/** Length that a frozen frame gets, in seconds. */
const FREEZE_SECONDS = 2
/** Sounds that lie less than a frame beside a mark belong to it: their grid is finer. */
const HAIR = TICKS_PER_SECOND / 100
const NO_SEED = '00000000-0000-4000-8000-000000000000'

/** What buttons, keys and menus of the desk do. */
export function useEditActions() {
  const project = useProject()
  const desk = useDesk()
  const aim = useAim()
  const notices = useNotices()
  const playhead = usePlayhead()
  const { rate, rows, selected, theClip, frontClip, onSelected } = useSelection()

  /**
   * Cuts what is selected under the playhead; with nothing selected there what is on the tracks that are aimed at, and
   * with none aimed at all but the music, unless there is nothing else. Linked halves are cut together.
   */
  function split(everything = false): void {
    const document = project.document
    if (!document) return
    const at = playhead.now()
    const isUnder = (clip: Clip) => clip.start < at && clipEnd(clip) > at
    const chosen = selected().filter(isUnder)
    const aimed = ['picture' as const, 'sound' as const].flatMap((kind) => aim.trackOf(kind)?.id ?? [])
    const open = tracksOf(document, project.reelId).filter((track) => !track.locked)
    const wanted =
      aimed.length > 0
        ? open.filter((track) => aimed.includes(track.id))
        : open.filter((track) => track.purpose !== 'music')
    const onTracks = (tracks: readonly Track[]) =>
      tracks.flatMap((track) => clipsOn(document, track.id).filter(isUnder)).map((clip) => clip.id)
    const ids = chosen.length > 0 ? chosen.map((clip) => clip.id) : onTracks(wanted)
    const linked =
      chosen.length > 0 && !desk.linked ? ids : withLinked(document, ids).filter((id) => isUnder(document.clips[id]!))
    // An aim is kept: what lies elsewhere is not cut because there is nothing here.
    if (!everything && aimed.length > 0 && linked.length === 0)
      return notices.say('There is nothing to cut here on the tracks that are aimed at.')
    const clipIds = everything || linked.length === 0 ? null : [...linked]
    project.perform({ type: 'split', reelId: project.reelId, at, clipIds })
  }

  function remove(closeUp: boolean): void {
    if (desk.transitions.size > 0) {
      const done = project.perform({ type: 'removeTransitions', transitionIds: [...desk.transitions] })
      if (done) desk.selectTransitions([])
      return
    }
    const done = onSelected((clipIds) => ({ type: 'remove', clipIds, closeUp, scope: desk.scope, linked: desk.linked }))
    if (done) desk.select([], null)
  }

  /** Copies what lies in the marked range, on the tracks that are open. */
  function copyRange(): void {
    const { range } = desk
    let document = project.document
    if (!document || !range) return notices.say('Mark a range first: in and out.')
    for (const at of [range.from, range.to]) {
      const split = { type: 'split', reelId: project.reelId, at, clipIds: null } as const
      document = tried(document, split, crypto.randomUUID())?.project ?? document
    }
    const whole: Project = document
    const inside = tracksOf(whole, project.reelId)
      .filter((track) => !track.locked)
      .flatMap((track) => clipsOn(whole, track.id))
      .filter((clip) => clip.start >= range.from - HAIR && clipEnd(clip) <= range.to + HAIR)
    if (inside.length === 0) return notices.say('There is nothing in the marked range.')
    keepCopied(copyOf(whole, new Set(inside.map((clip) => clip.id))))
    notices.say(`Copied ${formatSeconds(range.to - range.from)}: paste it at the playhead.`)
  }

  /** Takes the marked range out of the reel; closing up, or leaving the gap. */
  function cutRange(closeUp = true): void {
    const { range } = desk
    if (!range) return notices.say('Mark a range first: in and out, then cut it out.')
    const track = desk.scope === 'track' ? (selected()[0]?.trackId ?? null) : null
    if (desk.scope === 'track' && !track)
      return notices.say('Select a clip on the track to cut, or close up all tracks.')
    if (
      !project.perform({
        type: 'cutOut',
        reelId: project.reelId,
        ...range,
        trackId: track,
        scope: desk.scope,
        closeUp,
      })
    )
      return
    playhead.goTo(range.from)
    desk.range = null
  }

  function closeGaps(): void {
    const track =
      selected()[0]?.trackId ??
      rows()
        .filter((row) => row.track.kind === 'picture' && !row.track.locked)
        .at(-1)?.track.id
    if (track) project.perform({ type: 'closeGaps', trackId: track, scope: desk.scope })
  }

  function join(): void {
    const document = project.document
    const clip = theClip()
    if (!document || !clip) return void notices.say('Select the halves to join.')
    const lane = clipsOn(document, clip.trackId)
    const place = lane.findIndex((entry) => entry.id === clip.id)
    const edit = new Edit(document, NO_SEED)
    const pair = [
      [clip, lane[place + 1]],
      [lane[place - 1], clip],
    ].find(([a, b]) => a && b && continues(edit, a, b))
    if (!pair) return void notices.say('This clip has no neighbour that it goes on into.')
    project.perform({ type: 'join', leftId: pair[0]!.id, rightId: pair[1]!.id })
  }

  /** Brings an edge of the selected clip, or of the one in front, to the playhead. */
  function trimHere(edge: 'start' | 'end', mode: 'plain' | 'ripple'): void {
    const clip = theClip()
    if (!clip) return void notices.say('Put the playhead on a clip first.')
    const trim = {
      type: 'trim',
      clipId: clip.id,
      edge,
      to: playhead.now(),
      mode,
      scope: desk.scope,
      linked: desk.linked,
    } as const
    if (project.perform(trim) && mode === 'ripple' && edge === 'start') playhead.goTo(clip.start)
  }

  function freeze(): void {
    const clip = frontClip()
    if (!clip) return void notices.say('Put the playhead on a picture first.')
    project.perform({
      type: 'freeze',
      clipId: clip.id,
      at: playhead.now(),
      length: FREEZE_SECONDS * TICKS_PER_SECOND,
      scope: desk.scope,
    })
  }

  /** The cut of two clips that touch nearest to the playhead, on the track of the clip that is meant. */
  function nearestCut(): [Clip, Clip] | null {
    const clip = theClip()
    if (!clip || !project.document) return null
    const lane = clipsOn(project.document, clip.trackId)
    const away = (right: Clip) => Math.abs(right.start - playhead.now())
    const cuts = lane.flatMap((right, i): [Clip, Clip][] => {
      const left = lane[i - 1]
      return left && clipEnd(left) === right.start ? [[left, right]] : []
    })
    return cuts.sort((a, b) => away(a[1]) - away(b[1]))[0] ?? null
  }

  /** Brings the nearest cut to a place. */
  function rollTo(place: (cut: number) => number): void {
    const cut = nearestCut()
    if (!cut) return void notices.say('There is no cut between two clips that touch on this track.')
    const [left, right] = cut
    const to = place(right.start)
    project.perform({ type: 'roll', leftId: left.id, rightId: right.id, to, linked: desk.linked })
  }
  const rollHere = () => rollTo(() => playhead.now())

  /** Does by frames what drags do: trims the edge nearest to the playhead, rolls the nearest cut, slips, slides. */
  function byFrames(frames: number): void {
    const clip = theClip()
    if (!clip) return void notices.say('Put the playhead on a clip first.')
    const by = frameToTicks(frames, rate())
    const { tool, scope, linked } = desk
    const run = `${tool} ${clip.id}`
    const edge = Math.abs(playhead.now() - clip.start) <= Math.abs(playhead.now() - clipEnd(clip)) ? 'start' : 'end'
    if (tool === 'roll') return rollTo((cut) => cut + by)
    if (tool === 'slip') return void project.perform({ type: 'slip', clipIds: [clip.id], by, linked }, run)
    if (tool === 'slide') return void project.perform({ type: 'slide', clipId: clip.id, by, linked }, run)
    if (tool === 'stretch') {
      const length = Math.max(frameToTicks(1, rate()), clip.length + by)
      return void project.perform({ type: 'setSpeed', clipIds: [clip.id], length, room: 'keep', scope, linked }, run)
    }
    const to = (edge === 'start' ? clip.start : clipEnd(clip)) + by
    const mode = tool === 'ripple' ? 'ripple' : 'plain'
    project.perform({ type: 'trim', clipId: clip.id, edge, to, mode, scope, linked }, run)
  }

  /** Moves sounds alone by thousandths of a second. */
  function nudgeFine(milliseconds: number): void {
    const sounds = selected().filter((clip) => clip.stream !== null)
    if (sounds.length === 0) return notices.say('Select a sound first: pictures move by whole frames.')
    const by = snapToSample((milliseconds / 1000) * TICKS_PER_SECOND)
    const clipIds = sounds.map((clip) => clip.id)
    project.perform({ type: 'move', clipIds, by, mode: 'free', linked: false }, `nudge ${clipIds.join()}`)
  }

  function swap(side: 'next' | 'previous'): void {
    const clip = theClip()
    if (clip) project.perform({ type: 'swap', clipId: clip.id, with: side })
  }

  /** Moves what is selected by frames. */
  function nudge(frames: number): void {
    const by = frameToTicks(frames, rate())
    onSelected((clipIds) => ({ type: 'move', clipIds, by, mode: 'free', linked: desk.linked }), undefined, 'nudge')
  }

  /** Selects clips that came about by doing something and lie between two places. */
  function selectMade(doing: () => boolean, from: number, to: number): boolean {
    const before = project.document?.clips ?? {}
    if (!doing()) return false
    const made = Object.values(project.document!.clips).filter(
      (clip) => !before[clip.id] && clip.start >= from - HAIR && clipEnd(clip) <= to + HAIR,
    )
    if (made.length > 0)
      desk.select(
        made.map((clip) => clip.id),
        project.document,
      )
    return true
  }

  function duplicate(): void {
    const clips = selected()
    const end = Math.max(0, ...clips.map(clipEnd))
    const length = end - Math.min(end, ...clips.map((clip) => clip.start))
    selectMade(() => onSelected((clipIds) => ({ type: 'duplicate', clipIds, linked: desk.linked })), end, end + length)
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
    let copied = readCopied()
    if (!copied || !project.document) return notices.say('Nothing was copied yet.')
    if (copied.projectId !== project.id) {
      // Titles and made pictures bring everything along themselves.
      const assetIds = sourcesOf(copied)
      try {
        const { ids } =
          assetIds.length === 0
            ? { ids: {} }
            : await api<{ ids: Record<string, string> }>(`/projects/${project.id}/import-assets`, 'POST', {
                fromProject: copied.projectId,
                assetIds,
              })
        await project.reconnect()
        copied = withSources(copied, ids)
      } catch (error) {
        return notices.warn((error as Error).message)
      }
    }
    const plan = planPaste(copied, project.document, project.reelId, playhead.now(), mode)
    if (typeof plan === 'string') return notices.warn(plan)
    if (selectMade(() => project.perform(plan.command), playhead.now(), plan.end)) playhead.goTo(plan.end)
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

  return {
    ...{
      selected,
      theClip,
      onSelected,
      split,
      remove,
      cutRange,
      copyRange,
      rollHere,
      byFrames,
      nudgeFine,
      closeGaps,
      join,
      trimHere,
      freeze,
      swap,
      nudge,
      duplicate,
    },
    ...{
      copy,
      cut,
      paste,
      toggleLink,
      detachSound,
      nest,
      unnest,
    },
  }
}
