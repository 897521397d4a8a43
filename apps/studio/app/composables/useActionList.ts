import { useDesk } from '~/stores/desk'
import { useProject } from '~/stores/project'
import { useTransitions } from '~/stores/transitions'
import { useDeskActions } from './useDeskActions'
import { useGenerated } from './useGenerated'
import { usePlayer } from './usePlayhead'
import { useTransitionActions } from './useTransitionActions'

/** Something the desk can do, by a key, a button or a menu. */
export interface Action {
  id: string
  /** Heading it stands under in the list of shortcuts. */
  group: string
  label: string
  run: () => void
}

/** Everything that can have a key. */
export function useActionList(): Action[] {
  const project = useProject()
  const desk = useDesk()
  const player = usePlayer()
  const act = useDeskActions()
  const joins = useTransitionActions()
  const made = useGenerated()
  const store = useTransitions()
  void store.load()

  const groups: Record<string, [string, string, () => void][]> = {
    Play: [
      ['play.toggle', 'Play or pause', () => player.toggle()],
      ['play.back', 'Play backwards; again: faster', () => player.shuttle(-1)],
      ['play.pause', 'Pause', () => player.pause()],
      ['play.on', 'Play; again: faster', () => player.shuttle(1)],
      ['play.frameBack', 'One frame back', () => player.step(-1)],
      ['play.frameOn', 'One frame on', () => player.step(1)],
      ['play.tenBack', 'Ten frames back', () => player.step(-10)],
      ['play.tenOn', 'Ten frames on', () => player.step(10)],
      ['play.previousEdge', 'To the previous cut', () => act.jump(-1)],
      ['play.nextEdge', 'To the next cut', () => act.jump(1)],
      ['play.start', 'To the start', () => player.seek(0)],
      ['play.end', 'To the end', () => player.seek(Infinity)],
      ['play.loop', 'Loop the marked range', () => (desk.looping = !desk.looping)],
    ],
    Choose: [
      ['choose.markIn', 'Mark in', () => act.mark('in')],
      ['choose.markOut', 'Mark out', () => act.mark('out')],
      ['choose.clearMarks', 'Clear the marks', act.clearMarks],
      ['choose.keepPick', 'Keep the marked part as a pick', act.keepPick],
      ['choose.insert', 'Insert here', () => act.use('insert')],
      ['choose.over', 'Lay over', () => act.use('over')],
      ['choose.append', 'Add to the end', () => act.use('append')],
      ['choose.stack', 'Stack above', () => act.use('stack')],
      ['choose.replace', 'Replace the selected clip', () => act.replace()],
      ['choose.closeSource', 'Back to the reel', act.closeSource],
    ],
    Cut: [
      ['cut.split', 'Split at the playhead', () => act.split()],
      ['cut.splitAll', 'Split all tracks', () => act.split(true)],
      ['cut.join', 'Join back two halves', act.join],
      ['cut.remove', 'Remove, leave the gap', () => (desk.transitions.size > 0 ? joins.remove() : act.remove(false))],
      ['cut.closeUp', 'Remove and close up', () => (desk.transitions.size > 0 ? joins.remove() : act.remove(true))],
      ['cut.range', 'Cut out the marked range', act.cutRange],
      ['cut.closeGaps', 'Close up every gap', act.closeGaps],
      ['cut.startHere', 'Start of the clip to the playhead', () => act.trimHere('start', 'plain')],
      ['cut.endHere', 'End of the clip to the playhead', () => act.trimHere('end', 'plain')],
      ['cut.rippleStart', 'Start to the playhead, close up', () => act.trimHere('start', 'ripple')],
      ['cut.rippleEnd', 'End to the playhead, close up', () => act.trimHere('end', 'ripple')],
      ['cut.freeze', 'Freeze this frame for two seconds', act.freeze],
    ],
    Letter: [
      ['letter.type', 'Type on the picture', () => made.type()],
      ['letter.drawer', 'Titles and shapes', () => (desk.drawer = desk.drawer === 'titles' ? null : 'titles')],
      ['join.drawer', 'Transitions', () => (desk.drawer = desk.drawer === 'transitions' ? null : 'transitions')],
    ],
    Join: [
      ['join.standard', 'Put in the standard transition', () => joins.use(store.preferences.standard)],
      ['join.fadeIn', 'Fade in', () => act.fade('start')],
      ['join.fadeOut', 'Fade out', () => act.fade('end')],
    ],
    'Drags do': [
      ['tool.move', 'Move and trim', () => (desk.tool = 'move')],
      ['tool.ripple', 'Ripple trim', () => (desk.tool = 'ripple')],
      ['tool.roll', 'Roll a cut', () => (desk.tool = 'roll')],
      ['tool.slip', 'Slip footage under a clip', () => (desk.tool = 'slip')],
      ['tool.slide', 'Slide a clip between its neighbours', () => (desk.tool = 'slide')],
    ],
    Arrange: [
      ['arrange.frameEarlier', 'One frame earlier', () => act.nudge(-1)],
      ['arrange.frameLater', 'One frame later', () => act.nudge(1)],
      ['arrange.tenEarlier', 'Ten frames earlier', () => act.nudge(-10)],
      ['arrange.tenLater', 'Ten frames later', () => act.nudge(10)],
      ['arrange.swapNext', 'Swap with the next clip', () => act.swap('next')],
      ['arrange.swapPrevious', 'Swap with the previous clip', () => act.swap('previous')],
      ['arrange.duplicate', 'Duplicate', act.duplicate],
      ['arrange.copy', 'Copy', () => void act.copy()],
      ['arrange.cut', 'Cut', act.cut],
      ['arrange.paste', 'Paste, later clips make room', () => void act.paste('insert')],
      ['arrange.pasteOver', 'Paste over what is there', () => void act.paste('over')],
      ['arrange.link', 'Link or unlink', act.toggleLink],
      ['arrange.resync', 'Put back in sync', () => act.onSelected((clipIds) => ({ type: 'resync', clipIds }))],
      ['arrange.group', 'Group', () => act.onSelected((clipIds) => ({ type: 'group', clipIds }))],
      ['arrange.ungroup', 'Ungroup', () => act.onSelected((clipIds) => ({ type: 'ungroup', clipIds }))],
      ['arrange.nest', 'Make a reel of the selection', act.nest],
      ['arrange.unnest', 'Open out a nested reel', act.unnest],
    ],
    'Mark and select': [
      ['mark.add', 'Set a marker', act.addMarker],
      ['mark.previous', 'To the previous marker', () => act.jumpMarker(-1)],
      ['mark.next', 'To the next marker', () => act.jumpMarker(1)],
      ['select.all', 'Select all', act.selectAll],
      ['select.onwards', 'Select all from here on', act.selectOnwards],
      [
        'select.none',
        'Select nothing; leave the source',
        () => (desk.selection.size + desk.transitions.size > 0 ? desk.select([], null) : act.closeSource()),
      ],
    ],
    View: [
      ['view.snap', 'Snapping on or off', () => (desk.snap = !desk.snap)],
      ['view.linked', 'Picture and sound go together, or not', () => (desk.linked = !desk.linked)],
      ['view.fit', 'Show the whole reel', act.fit],
      ['view.fitSelection', 'Show the selection', act.fitSelection],
      ['view.nearer', 'Nearer', () => desk.zoom(1.4)],
      ['view.farther', 'Farther away', () => desk.zoom(1 / 1.4)],
      [
        'view.storyboard',
        'Storyboard or timeline',
        () => (desk.view = desk.view === 'timeline' ? 'storyboard' : 'timeline'),
      ],
      ['view.shortcuts', 'Shortcuts', () => (desk.shortcutsOpen = true)],
      ['edit.undo', 'Undo', project.undo],
      ['edit.redo', 'Redo', project.redo],
    ],
  }
  return Object.entries(groups).flatMap(([group, list]) => list.map(([id, label, run]) => ({ id, group, label, run })))
}
