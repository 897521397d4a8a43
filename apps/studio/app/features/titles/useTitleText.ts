import { onScopeDispose } from 'vue'
import { MAX_TITLE, shiftRuns, styleRange, type CommandInput, type Params, type TitleClip } from '@dusk/timeline'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import { tried } from '~/features/project/tried'
import { useTitles } from './titlesStore'
import { usePlayer } from '~/features/player/usePlayhead'

/** Pause in typing after which what was typed becomes one step of the history, in milliseconds. */
const PAUSE = 900

/** Typing in a title: the viewer follows at once, the document when typing rests. */
export function useTitleText(clip: () => TitleClip) {
  const project = useProject()
  const titles = useTitles()
  const player = usePlayer()
  const notices = useNotices()
  let waiting: { command: CommandInput; timer: ReturnType<typeof setTimeout> } | null = null

  /** Whether a title can hold a text; the person is told when it can't, for nothing that they wrote is to be cut. */
  function fits(text: string): boolean {
    if (text.length <= MAX_TITLE) return true
    const [most, many] = [MAX_TITLE, text.length].map((count) => count.toLocaleString('en'))
    notices.warn(`A title holds ${most} letters; with these it would be ${many}. Put the rest in a second title.`)
    return false
  }

  /** Shows a text; it is kept when typing rests or the field is left. */
  function type(text: string): void {
    const { id, title } = clip()
    if (waiting) clearTimeout(waiting.timer)
    const command: CommandInput = {
      type: 'setTitle',
      clipIds: [id],
      set: { text, runs: shiftRuns(title.runs, title.text, text) },
    }
    waiting = { command, timer: setTimeout(keep, PAUSE) }
    const typed = tried(project.document!, command)?.project
    if (!typed) return
    titles.typed = typed
    player.tryOut(typed)
  }

  function keep(): void {
    if (!waiting) return
    clearTimeout(waiting.timer)
    const { command } = waiting
    waiting = null
    project.perform(command)
    titles.typed = null
  }

  /** Puts a look on the letters that are marked, or with none marked on the whole title. */
  function style(set: Record<string, unknown>, letters: ReadonlySet<string>): void {
    keep()
    const { id, title } = clip()
    const range = titles.range
    const own = Object.keys(set).every((key) => letters.has(key) && set[key] !== null)
    if (range && range[1] > range[0] && own && titles.editing === id)
      project.perform({
        type: 'setTitle',
        clipIds: [id],
        set: { runs: styleRange(title.runs, range[0], range[1], set as Params) },
      })
    else project.perform({ type: 'setTitle', clipIds: [id], set: {}, style: set as never })
  }

  onScopeDispose(keep)
  return { fits, type, keep, style }
}
