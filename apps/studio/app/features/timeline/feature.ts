import { clipEnd, SETTING_KINDS, snapToFrame, type CommandInput, type PlaceMode } from '@dusk/timeline'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { actionsOf, defineFeature, useFeatures, type MenuGroup, type MenuItem } from '~/features/registry/feature'
import { useDesk } from './deskStore'
import { useEditActions } from './useEditActions'
import { useViewActions } from './useViewActions'

/** The reel's clips: cutting, arranging, selecting them. */
export const timeline = defineFeature({
  id: 'timeline',
  useActions() {
    const desk = useDesk()
    const act = useEditActions()
    const view = useViewActions()
    const parts = useFeatures().flatMap((feature) => feature.useClipboard?.() ?? [])
    const copy = () => {
      const taken = parts.find((part) => part.copy())
      if (taken || act.copy()) for (const part of parts) if (part !== taken) part.forget()
    }
    const paste = (mode: PlaceMode) => {
      if (!parts.some((part) => part.paste())) void act.paste(mode)
    }
    return [
      ...actionsOf('Play', [
        ['play.previousEdge', 'To the previous cut', () => view.jump(-1)],
        ['play.nextEdge', 'To the next cut', () => view.jump(1)],
        ['play.loop', 'Loop the marked range', () => (desk.looping = !desk.looping)],
      ]),
      ...actionsOf('Cut', [
        ['cut.split', 'Split at the playhead', () => act.split()],
        ['cut.splitAll', 'Split all tracks', () => act.split(true)],
        ['cut.join', 'Join back two halves', act.join],
        ['cut.remove', 'Remove, leave the gap', () => act.remove(false)],
        ['cut.closeUp', 'Remove and close up', () => act.remove(true)],
        ['cut.range', 'Cut out the marked range', () => act.cutRange()],
        ['cut.rangeLeave', 'Remove the marked range, leave the gap', () => act.cutRange(false)],
        ['cut.rollHere', 'Roll the nearest cut to the playhead', act.rollHere],
        ['cut.frameBack', 'What drags do, one frame earlier', () => act.byFrames(-1)],
        ['cut.frameOn', 'What drags do, one frame later', () => act.byFrames(1)],
        ['cut.closeGaps', 'Close up every gap', act.closeGaps],
        ['cut.startHere', 'Start of the clip to the playhead', () => act.trimHere('start', 'plain')],
        ['cut.endHere', 'End of the clip to the playhead', () => act.trimHere('end', 'plain')],
        ['cut.rippleStart', 'Start to the playhead, close up', () => act.trimHere('start', 'ripple')],
        ['cut.rippleEnd', 'End to the playhead, close up', () => act.trimHere('end', 'ripple')],
        ['cut.freeze', 'Freeze this frame for two seconds', act.freeze],
      ]),
      ...actionsOf('Drags do', [
        ['tool.move', 'Move and trim', () => (desk.tool = 'move')],
        ['tool.ripple', 'Ripple trim', () => (desk.tool = 'ripple')],
        ['tool.roll', 'Roll a cut', () => (desk.tool = 'roll')],
        ['tool.slip', 'Slip footage under a clip', () => (desk.tool = 'slip')],
        ['tool.slide', 'Slide a clip between its neighbours', () => (desk.tool = 'slide')],
        ['tool.stretch', 'Stretch: an edge changes the speed', () => (desk.tool = 'stretch')],
      ]),
      ...actionsOf('Arrange', [
        ['arrange.frameEarlier', 'One frame earlier', () => act.nudge(-1)],
        ['arrange.frameLater', 'One frame later', () => act.nudge(1)],
        ['arrange.tenEarlier', 'Ten frames earlier', () => act.nudge(-10)],
        ['arrange.tenLater', 'Ten frames later', () => act.nudge(10)],
        ['arrange.fineEarlier', 'Sound alone, a thousandth of a second earlier', () => act.nudgeFine(-1)],
        ['arrange.fineLater', 'Sound alone, a thousandth of a second later', () => act.nudgeFine(1)],
        ['arrange.swapNext', 'Swap with the next clip', () => act.swap('next')],
        ['arrange.swapPrevious', 'Swap with the previous clip', () => act.swap('previous')],
        ['arrange.duplicate', 'Duplicate', act.duplicate],
        ['arrange.copy', 'Copy', copy],
        ['arrange.copyRange', 'Copy the marked range', act.copyRange],
        ['arrange.cut', 'Cut', act.cut],
        ['arrange.paste', 'Paste, later clips make room', () => paste('insert')],
        ['arrange.pasteOver', 'Paste over what is there', () => paste('over')],
        ['arrange.link', 'Link or unlink', act.toggleLink],
        ['arrange.resync', 'Put back in sync', () => act.onSelected((clipIds) => ({ type: 'resync', clipIds }))],
        ['arrange.group', 'Group', () => act.onSelected((clipIds) => ({ type: 'group', clipIds }))],
        ['arrange.ungroup', 'Ungroup', () => act.onSelected((clipIds) => ({ type: 'ungroup', clipIds }))],
        ['arrange.nest', 'Make a reel of the selection', act.nest],
        ['arrange.unnest', 'Open out a nested reel', act.unnest],
      ]),
      ...actionsOf('Mark and select', [
        ['select.all', 'Select all', view.selectAll],
        ['select.onwards', 'Select all from here on', view.selectOnwards],
        ['select.none', 'Select nothing; leave the source', view.selectNothing],
      ]),
      ...actionsOf('View', [
        ['view.snap', 'Snapping on or off', () => (desk.snap = !desk.snap)],
        ['view.linked', 'Picture and sound go together, or not', () => (desk.linked = !desk.linked)],
        ['view.fit', 'Show the whole reel', view.fit],
        ['view.fitSelection', 'Show the selection', view.fitSelection],
        ['view.nearer', 'Nearer', () => view.zoom(1.4)],
        ['view.farther', 'Farther away', () => view.zoom(1 / 1.4)],
      ]),
    ]
  },
  useMenu() {
    const project = useProject()
    const desk = useDesk()
    const act = useEditActions()
    const playhead = usePlayhead()
    const perform = (input: CommandInput) => void project.perform(input)
    return ({ clip, trackId, tick }): MenuGroup[] => {
      const document = project.document!
      if (!clip) {
        const later = Object.values(document.clips).some((other) => other.trackId === trackId && other.start > tick)
        const gaps: MenuItem[] = [
          {
            label: 'Close up this gap',
            run: () => perform({ type: 'closeGap', trackId, at: tick, scope: desk.scope }),
          },
          {
            label: 'Close up every gap',
            action: 'cut.closeGaps',
            run: () => perform({ type: 'closeGaps', trackId, scope: desk.scope }),
          },
        ]
        return [
          { order: 10, items: later ? gaps : [] },
          {
            order: 20,
            items: [{ label: 'Paste at the playhead', action: 'arrange.paste', run: () => void act.paste('insert') }],
          },
          {
            order: 30,
            items: desk.range
              ? [
                  { label: 'Cut out the marked range', action: 'cut.range', run: () => act.cutRange() },
                  { label: 'Remove it, leave the gap', action: 'cut.rangeLeave', run: () => act.cutRange(false) },
                  { label: 'Copy the marked range', action: 'arrange.copyRange', run: act.copyRange },
                  { label: 'Clear the range', action: 'choose.clearMarks', run: () => (desk.range = null) },
                ]
              : [],
          },
        ]
      }
      const clips = act.selected()
      const clipIds = clips.map((entry) => entry.id)
      const at = playhead.now()
      const under = clips.some((entry) => entry.start < at && clipEnd(entry) > at)
      const picture = clip.stream === null
      const linked = clips.some((entry) => entry.link)
      const same = Object.values(document.clips).filter((other) => other.label && other.label === clip.label)
      const others = clips.filter((entry) => entry.id !== clip.id && (entry.stream === null) === picture)
      const copyTo = (to: string[] | 'source', label: string): MenuItem => ({
        label,
        run: () =>
          perform({
            type: 'copySettings',
            fromId: clip.id,
            to,
            kinds: SETTING_KINDS.filter((kind) => kind !== 'label' && (kind === 'sound') !== picture),
          }),
      })
      const when = (applies: boolean, item: MenuItem): MenuItem[] => (applies ? [item] : [])
      const place = snapToFrame(tick, project.reel!.format.rate)
      const together = clips.length > 1
      return [
        {
          order: 10,
          items: [
            ...when(under, { label: 'Split at the playhead', action: 'cut.split', run: () => act.split() }),
            {
              label: 'Split here',
              run: () => perform({ type: 'split', reelId: project.reelId, at: place, clipIds: [clip.id] }),
            },
            { label: 'Remove, leave the gap', action: 'cut.remove', run: () => act.remove(false) },
            { label: 'Remove and close up', action: 'cut.closeUp', run: () => act.remove(true) },
          ],
        },
        {
          order: 30,
          items: [
            { label: 'Copy', action: 'arrange.copy', run: () => void act.copy() },
            { label: 'Cut', action: 'arrange.cut', run: act.cut },
            { label: 'Duplicate', action: 'arrange.duplicate', run: act.duplicate },
            { label: 'Swap with the next', action: 'arrange.swapNext', run: () => act.swap('next') },
          ],
        },
        {
          order: 40,
          items: [
            ...when(linked && picture, { label: 'Detach the sound', run: act.detachSound }),
            ...when(linked, {
              label: 'Unlink',
              action: 'arrange.link',
              run: () => perform({ type: 'unlink', clipIds }),
            }),
            ...when(together && !clips.every((entry) => entry.link && entry.link === clip.link), {
              label: 'Link as they lie',
              run: () => perform({ type: 'link', clipIds }),
            }),
            ...when(together && !clip.group, {
              label: 'Group',
              action: 'arrange.group',
              run: () => perform({ type: 'group', clipIds }),
            }),
            ...when(clip.group !== null, {
              label: 'Ungroup',
              action: 'arrange.ungroup',
              run: () => perform({ type: 'ungroup', clipIds: [clip.id] }),
            }),
            ...when(linked, {
              label: 'Put back in sync',
              action: 'arrange.resync',
              run: () => perform({ type: 'resync', clipIds }),
            }),
          ],
        },
        {
          order: 50,
          items: [
            ...when(picture && under, { label: 'Freeze this frame', action: 'cut.freeze', run: act.freeze }),
            { label: 'Make a reel of the selection', action: 'arrange.nest', run: act.nest },
            ...when(clip.kind === 'reel', {
              label: 'Open it out here',
              action: 'arrange.unnest',
              run: act.unnest,
            }),
          ],
        },
        {
          order: 60,
          items: [
            ...when(
              others.length > 0,
              copyTo(
                others.map((entry) => entry.id),
                `Its settings to ${others.length} selected`,
              ),
            ),
            ...when(clip.kind === 'media', copyTo('source', 'Its settings to every piece of this source')),
            ...when(same.length > 1, {
              label: 'Select all with this label',
              run: () =>
                desk.select(
                  same.map((entry) => entry.id),
                  document,
                ),
            }),
          ],
        },
      ]
    }
  },
})
