import { formatSeconds, secondsToTicks, transitionRoom, type CommandInput, type Transition } from '@dusk/timeline'
import { TRANSITIONS } from '@dusk/compositor'
import { meantCuts, missingWords, transitionFor, type Cut } from './cuts'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import { trialEdit } from '~/features/project/tried'
import { useTransitions } from './transitionsStore'
import { useSelection } from '~/features/timeline/useSelection'
import { usePlayhead } from '~/features/player/usePlayhead'

/** Putting transitions in, changing and removing them, from keys, menus, the gallery and the timeline. */
export function useTransitionActions() {
  const project = useProject()
  const desk = useDesk()
  const notices = useNotices()
  const store = useTransitions()
  const playhead = usePlayhead()
  const { selected, theClip } = useSelection()

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

  /** What a click in the gallery or the key does: the selected transitions change, else one goes where it is meant. */
  function use(kind: string): void {
    const chosen = desk.transitions
    const document = project.document
    if (!document) return
    const pictures = [...chosen].filter(
      (id) => document.tracks[document.transitions[id]?.trackId ?? '']?.kind === 'picture',
    )
    if (pictures.length > 0)
      project.perform({ type: 'setTransitions', transitionIds: pictures, set: { kind, settings: {} } })
    else put(meantCuts(document, project.reelId, desk.selection, playhead.now()), kind)
  }

  function remove(): void {
    if (desk.transitions.size === 0) return
    if (project.perform({ type: 'removeTransitions', transitionIds: [...desk.transitions] })) desk.selectTransitions([])
  }

  /** The selected transition on every other cut of its track that has none. */
  function copyToTrack(transition: Transition): void {
    const document = project.document!
    const taken = new Set(
      Object.values(document.transitions).flatMap((other) => [`e${other.leftId}`, `s${other.rightId}`]),
    )
    const cuts = meantCutsOfTrack(transition.trackId).filter(
      (cut) => !taken.has(`e${cut.left!.id}`) && !taken.has(`s${cut.right!.id}`),
    )
    if (cuts.length === 0) return notices.say('Every cut of this track has a transition already.')
    const list = cuts.map((cut) => {
      const made = {
        ...transitionFor(cut, transition.kind, transition.before + transition.after, false),
        kind: transition.kind,
        settings: transition.settings,
      }
      const room = transitionRoom(trialEdit(document), cut.left, cut.right, 'shorten')
      return {
        ...made,
        missing: room.before + room.after < secondsToTicks(0.1) ? ('hold' as const) : transition.missing,
      }
    })
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

  return { fade, plan, put, use, remove, copyToTrack, nameOf }
}
