import { clipEnd, clipsOn, reelLength, type Clip, type CommandInput } from '@dusk/timeline'
import { rowsOf } from './layout'
import { useDesk } from './deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import { usePlayhead } from '~/features/player/usePlayhead'

/** What is selected, and which clip is meant where nothing is. */
export function useSelection() {
  const project = useProject()
  const desk = useDesk()
  const notices = useNotices()
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
    const at = playhead.now()
    for (const { track } of rows()) {
      if (track.kind !== 'picture' || track.hidden) continue
      const clip = clipsOn(project.document!, track.id).find((entry) => entry.start <= at && clipEnd(entry) > at)
      if (clip) return clip
    }
    return null
  }

  /** Carries a command out on what is selected, or says what to do first; `run` as in the project's `perform`. */
  function onSelected(make: (ids: string[]) => CommandInput, hint = 'Select a clip first.', run?: string): boolean {
    if (desk.selection.size === 0) {
      notices.say(hint)
      return false
    }
    const ids = [...desk.selection]
    return project.perform(make(ids), run && `${run} ${ids.join()}`)
  }

  return { rate, length, rows, selected, theClip, frontClip, onSelected }
}
