import {
  formatSeconds,
  sameData,
  secondsToTicks,
  ticksPerFrame,
  transitionRoom,
  type CommandInput,
  type Project,
  type Transition,
} from '@dusk/timeline'
import { TRANSITIONS } from '@dusk/compositor'
import { bareCuts, meantCuts, meantTransitions, missingWords, transitionFor, type Cut } from './cuts'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import { trialEdit } from '~/features/project/tried'
import { useTransitions, type CopiedTransition } from './transitionsStore'
import { useSelection } from '~/features/timeline/useSelection'
import { usePlayhead } from '~/features/player/usePlayhead'

/** Putting transitions in, changing and removing them, from keys, menus, the gallery and the timeline. */
export function useTransitionActions() {
  const project = useProject()
  const desk = useDesk()
  const notices = useNotices()
  const store = useTransitions()
  const playhead = usePlayhead()
  const { rate, selected, theClip } = useSelection()

  const nameOf = (kind: string) => TRANSITIONS.find((entry) => entry.id === kind)?.name ?? 'Crossfade'
  const isSound = (cut: Cut) => project.document!.tracks[cut.trackId]!.kind === 'sound'

  /** Transitions for cuts as they can be had: with the footage that is hidden, else with held edge frames. */
  function plan(
    cuts: readonly Cut[],
    kind: string,
  ): { command: CommandInput; words: string; list: Omit<Transition, 'trackId'>[] } | null {
    const document = project.document!
    const wanted = secondsToTicks(store.preferences.seconds)
    const list: Omit<Transition, 'trackId'>[] = []
    let words: string | null = null
    for (const cut of cuts) {
      const made = transitionFor(cut, kind, wanted, isSound(cut))
      const room = transitionRoom(trialEdit(document), cut.left, cut.right, 'shorten')
      const got = Math.min(wanted, room.before + room.after)
      if (cut.left && cut.right) words ??= missingWords(wanted, got, formatSeconds)
      // Less than a tenth of a second would not be seen as a change at all.
      if (got < secondsToTicks(0.1)) made.missing = 'hold'
      list.push(made)
    }
    if (list.length === 0) return null
    const name = isSound(cuts[0]!) ? 'Crossfade' : nameOf(kind)
    const where =
      cuts.length > 1
        ? `on ${cuts.length} cuts`
        : cuts[0]!.left && cuts[0]!.right
          ? 'on this cut'
          : cuts[0]!.right
            ? 'at the start'
            : 'at the end'
    return {
      command: { type: 'addTransitions', transitions: list },
      words: `${name} ${where}, ${formatSeconds(wanted)}${words ? ` — ${words}` : ''}`,
      list,
    }
  }

  /** Puts a transition on cuts and selects it. Says what had to give. */
  function put(cuts: readonly Cut[], kind: string): boolean {
    const made = plan(cuts, kind)
    if (!made) {
      notices.say('There is no cut here. Put two clips side by side, or select a clip to fade it in or out.')
      return false
    }
    if (!project.perform(made.command)) return false
    desk.selectTransitions(made.list.map((entry) => entry.id))
    if (made.words.includes('—')) notices.say(`${made.words}.`)
    return true
  }

  /** The selected transitions of pictures, or of sounds. */
  function chosen(sound: boolean): Transition[] {
    const document = project.document!
    return [...desk.transitions]
      .flatMap((id) => document.transitions[id] ?? [])
      .filter((entry) => (document.tracks[entry.trackId]?.kind === 'sound') === sound)
  }

  /** Those of the selected transitions that a key changes, wherever the playhead was moved since. */
  function meant(transitions: readonly Transition[], alike: (transition: Transition) => boolean): string[] {
    const at = playhead.now()
    const near = meantCuts(project.document!, project.reelId, new Set(), at)
    const stands = near.some((cut) => Math.abs(cut.at - at) < ticksPerFrame(rate()) / 2)
    return meantTransitions(transitions, near, stands, alike).map(({ id }) => id)
  }

  /** What a click in the gallery does: the selected transitions change, else one goes where it is meant. */
  function use(kind: string): void {
    if (!project.document) return
    change(
      chosen(false).map(({ id }) => id),
      kind,
    )
  }

  /** What the key does: the same, unless the playhead was moved to another cut. */
  function useStandard(): void {
    if (!project.document) return
    const kind = store.preferences.standard
    change(
      meant(chosen(false), (transition) => transition.kind === kind),
      kind,
    )
  }

  /** Makes transitions one of a kind; without any, one goes where it is meant. */
  function change(transitionIds: readonly string[], kind: string): void {
    const document = project.document!
    if (transitionIds.length > 0)
      project.perform({ type: 'setTransitions', transitionIds: [...transitionIds], set: { kind, settings: {} } })
    else {
      const cuts = meantCuts(document, project.reelId, desk.selection, playhead.now())
      const pairs = cuts.filter((cut) => document.tracks[cut.trackId]!.kind === 'picture')
      // On one cut it takes the place of what is there; on many, what was chosen by hand stays.
      const bare = pairs.length > 1 ? bareCuts(document, cuts) : cuts
      if (cuts.length > 0 && bare.length === 0) notices.say('Every one of these cuts has a transition already.')
      else put(bare, kind)
    }
  }

  function remove(): void {
    if (desk.transitions.size === 0) return
    if (project.perform({ type: 'removeTransitions', transitionIds: [...desk.transitions] })) desk.selectTransitions([])
  }

  /** A transition like another one, with its lengths on both sides, on a cut. */
  function likeOn(document: Project, like: CopiedTransition, cut: Cut): Omit<Transition, 'trackId'> {
    const length = like.before + like.after
    const kind = isSound(cut) === like.sound ? like.kind : isSound(cut) ? 'equalPower' : 'dissolve'
    const made = { ...transitionFor(cut, kind, length, false), kind, settings: kind === like.kind ? like.settings : {} }
    if (cut.left && cut.right) Object.assign(made, { before: like.before, after: like.after })
    const room = transitionRoom(trialEdit(document), cut.left, cut.right, 'shorten')
    return { ...made, missing: room.before + room.after < secondsToTicks(0.1) ? 'hold' : like.missing }
  }

  /** Copies the selected transition: kind, lengths and settings. `false` when none is selected. */
  function copy(): boolean {
    if (!project.document) return false
    const first = chosen(false)[0] ?? chosen(true)[0]
    if (!first) return false
    store.copied = { ...first, sound: project.document.tracks[first.trackId]?.kind === 'sound' }
    notices.say(`Copied ${store.copied.sound ? 'the crossfade' : nameOf(first.kind)}. Paste it on other cuts.`)
    return true
  }

  /** Pastes what was copied onto the selected transitions, or the cuts that are meant. `false` when none was copied. */
  function paste(): boolean {
    const [like, document] = [store.copied, project.document]
    if (!like || !document) return false
    const { kind, settings, before, after, missing } = like
    const set = { kind, settings, before, after, missing }
    const ids = meant(chosen(like.sound), (entry) => sameData({ ...entry, ...set }, entry))
    if (ids.length > 0) {
      project.perform({ type: 'setTransitions', transitionIds: ids, set })
      return true
    }
    const cuts = meantCuts(document, project.reelId, desk.selection, playhead.now())
    const fitting = like.sound ? cuts.filter(isSound) : cuts
    if (fitting.length === 0) notices.say('There is no cut here to paste it on.')
    else {
      const transitions = fitting.map((cut) => likeOn(document, like, cut))
      if (project.perform({ type: 'addTransitions', transitions }))
        desk.selectTransitions(transitions.map(({ id }) => id))
    }
    return true
  }

  /** The selected transition on every other cut of its track that has none. */
  function copyToTrack(of: Transition): void {
    const document = project.document!
    const cuts = bareCuts(document, meantCutsOfTrack(of.trackId))
    if (cuts.length === 0) return notices.say('Every cut of this track has a transition already.')
    const list = cuts.map((cut) =>
      likeOn(document, { ...of, sound: document.tracks[of.trackId]!.kind === 'sound' }, cut),
    )
    project.perform({ type: 'addTransitions', transitions: list })
  }

  function meantCutsOfTrack(trackId: string): Cut[] {
    const document = project.document!
    const ids = new Set(
      Object.values(document.clips)
        .filter((clip) => clip.trackId === trackId)
        .map((clip) => clip.id),
    )
    return meantCuts(document, project.reelId, ids, playhead.now()).filter((cut) => cut.left && cut.right)
  }

  /** Lets the selected clips, or the one in front, come or go over the standard length. */
  function fade(edge: 'start' | 'end'): void {
    const clips = selected().length > 0 ? selected() : [theClip()].filter((clip) => clip !== null)
    if (clips.length === 0) return void notices.say('Select the clip to fade.')
    const length = secondsToTicks(store.preferences.seconds)
    const transitions = clips.map((clip) => ({
      id: crypto.randomUUID(),
      leftId: edge === 'end' ? clip.id : null,
      rightId: edge === 'start' ? clip.id : null,
      before: edge === 'end' ? Math.min(length, clip.length) : 0,
      after: edge === 'start' ? Math.min(length, clip.length) : 0,
      kind: clip.stream === null ? 'dissolve' : 'equalPower',
      settings: {},
      missing: 'shorten' as const,
    }))
    project.perform({ type: 'addTransitions', transitions })
  }

  return { fade, plan, put, use, useStandard, remove, copy, paste, copyToTrack, nameOf }
}
