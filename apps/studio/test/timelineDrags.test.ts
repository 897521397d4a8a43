import { describe, expect, it, vi } from 'vitest'
import { computed, ref } from 'vue'
import type { Clip } from '@dusk/timeline'
import { useDragSession } from '~/features/timeline/useDragSession'
import { useTimelineDrag } from '~/features/timeline/useTimelineDrag'
import { useTrimDrag } from '~/features/timeline/useTrimDrag'
import { rowsOf } from '~/features/timeline/layout'
import { openDesk } from './tools/desk'
import { drag, escape, pointer, surface, type Keys } from './tools/pointer'
import { HARBOUR, SECOND } from './tools/server'

const frame = SECOND / 30

describe('drags on the timeline', () => {
  async function timeline() {
    const studio = await openDesk()
    // Ten pixels are one frame.
    studio.desk.pixelsPerSecond = 300
    studio.desk.timelineWidth = 1000
    const body = surface()
    const made = studio.within(() => {
      const session = useDragSession(ref(body))
      const rows = computed(() => rowsOf(studio.project.document!, studio.project.reelId))
      return { session, rows, ...useTimelineDrag(session, rows), ...useTrimDrag(session) }
    })
    const middle = (name: string) => {
      const row = made.rows.value.find((entry) => entry.track.name === name)!
      return row.top + row.height / 2
    }
    const clip = (id: string) => studio.project.document!.clips[id] as Clip
    const move = (id: string, path: (readonly [number, number])[], keys: Keys = {}, go = true) => {
      studio.desk.select([id], studio.project.document)
      drag(body, (down) => made.moveClips(down, clip(id)), path, keys, go)
    }
    return { ...studio, ...made, body, middle, clip, move }
  }

  it('move a pair by whole frames, as one step', async () => {
    const { pair, frames, move, middle, project } = await timeline()
    const [picture] = pair(10, 20)
    const steps = project.history.done.length
    const y = middle('Picture 1')
    move(picture, [
      [150, y],
      [170, y],
      [184, y],
    ])
    expect(frames('Picture 1')).toEqual([[13, 20]])
    expect(frames('Effects')).toEqual([[13, 20]])
    expect(project.history.done.length).toBe(steps + 1)
    project.undo()
    expect(frames('Picture 1')).toEqual([[10, 20]])
  })

  it('do what a click does only when nothing was dragged, and that once', async () => {
    const { pair, frames, middle, session, body, desk, moveClips, clip, project } = await timeline()
    const [picture] = pair(10, 20)
    const y = middle('Picture 1')
    let clicks = 0
    const press = (path: (readonly [number, number])[]) => {
      desk.select([picture], project.document)
      session.onClick(() => clicks++)
      drag(body, (down) => moveClips(down, clip(picture)), path, { ctrlKey: true })
    }
    press([
      [150, y],
      [150, y],
    ])
    expect(clicks).toBe(1)
    press([
      [150, y],
      [170, y],
      [200, y],
    ])
    expect([clicks, frames('Picture 1')[0]![0]]).toEqual([1, 15])
    // The next press is one of its own.
    drag(body, (down) => moveClips(down, clip(picture)), [
      [200, y],
      [200, y],
    ])
    expect(clicks).toBe(1)
  })

  it('say beforehand what letting go would do, and do nothing on Escape or a mere press', async () => {
    const { pair, frames, move, middle, session, project } = await timeline()
    const [picture] = pair(10, 20)
    pair(60, 20)
    const y = middle('Picture 1')
    const steps = project.history.done.length
    move(picture, [
      [150, y],
      [152, y],
    ])
    expect(project.history.done.length).toBe(steps)
    move(
      picture,
      [
        [150, y],
        [600, y],
      ],
      {},
      false,
    )
    expect(session.label.value!.words.length).toBeGreaterThan(5)
    expect(session.ghosts.value.length).toBeGreaterThan(0)
    expect(session.lifted.value).toContain(picture)
    escape()
    expect(session.label.value).toBeNull()
    expect(session.lifted.value.size).toBe(0)
    expect(frames('Picture 1')).toEqual([
      [10, 20],
      [60, 20],
    ])
  })

  it('stick to edges and the playhead; Control frees them', async () => {
    const { pair, frames, move, middle, session, player, desk } = await timeline()
    const [picture] = pair(10, 20)
    player.seek(50 * frame)
    const y = middle('Picture 1')
    move(
      picture,
      [
        [150, y],
        [543, y],
      ],
      {},
      false,
    )
    expect(session.snapLine.value?.tick).toBe(50 * frame)
    escape()
    move(picture, [
      [150, y],
      [543, y],
    ])
    expect(frames('Picture 1')).toEqual([[50, 20]])
    move(
      picture,
      [
        [550, y],
        [493, y],
      ],
      { ctrlKey: true },
    )
    expect(frames('Picture 1')).toEqual([[44, 20]])
    desk.snap = false
    move(picture, [
      [450, y],
      [508, y],
    ])
    expect(frames('Picture 1')).toEqual([[50, 20]])
  })

  it('carry a clip to another track of its kind, never to one of the other', async () => {
    const { pair, frames, move, middle } = await timeline()
    const [picture] = pair(10, 20)
    move(picture, [
      [150, middle('Picture 1')],
      [150, middle('Picture 2')],
      [151, middle('Picture 2')],
    ])
    expect(frames('Picture 2')).toEqual([[10, 20]])
    expect(frames('Picture 1')).toEqual([])
    move(picture, [
      [150, middle('Picture 2')],
      [150, middle('Music')],
      [151, middle('Music')],
    ])
    expect(frames('Picture 2').length + frames('Picture 1').length).toBe(1)
    expect(frames('Music')).toEqual([])
  })

  it('select with a rubber band what it touches, added to what was with Shift', async () => {
    const { pair, body, rubberBand, middle, desk, session } = await timeline()
    const [first] = pair(10, 20)
    const [second] = pair(60, 20)
    desk.linked = false
    const [top, bottom] = [middle('Picture 1') - 5, middle('Picture 1') + 5]
    drag(
      body,
      rubberBand,
      [
        [20, top],
        [150, bottom],
      ],
      {},
      false,
    )
    expect(session.band.value).toMatchObject({ x0: 20, x1: 150 })
    expect(desk.selection).toEqual(new Set([first]))
    body.dispatchEvent(pointer('pointerup', [150, bottom]))
    expect(session.band.value).toBeNull()
    drag(
      body,
      rubberBand,
      [
        [700, top],
        [900, bottom],
      ],
      { shiftKey: true },
    )
    expect(desk.selection).toEqual(new Set([first, second]))
  })

  it('scroll at the edge while they last', async () => {
    const { pair, move, middle, desk, body } = await timeline()
    vi.useFakeTimers()
    try {
      const [picture] = pair(10, 20)
      const y = middle('Picture 1')
      move(
        picture,
        [
          [150, y],
          [998, y],
        ],
        {},
        false,
      )
      vi.advanceTimersByTime(300)
      const there = desk.scroll
      expect(there).toBeGreaterThan(0)
      body.dispatchEvent(pointer('pointerup', [998, y]))
      vi.advanceTimersByTime(300)
      expect(desk.scroll).toBe(there)
    } finally {
      vi.useRealTimers()
    }
  })

  it('trim an edge with its sound, as far as there is footage, and say so', async () => {
    const { pair, frames, body, trimEdge, clip, session } = await timeline()
    const [picture] = pair(10, 20, 5)
    drag(
      body,
      (down) => trimEdge(down, clip(picture), 'end', 'plain'),
      [
        [300, 10],
        [402, 10],
      ],
      { ctrlKey: true },
    )
    expect(frames('Picture 1')).toEqual([[10, 30]])
    expect(frames('Effects')).toEqual([[10, 30]])
    drag(
      body,
      (down) => trimEdge(down, clip(picture), 'start', 'plain'),
      [
        [100, 10],
        [10, 10],
      ],
      { ctrlKey: true },
      false,
    )
    expect(session.label.value!.words).toContain('nothing more at this end')
    expect(session.changed.value.get(picture)!.start).toBe(5 * frame)
    body.dispatchEvent(pointer('pointerup', [10, 10]))
    expect(frames('Picture 1')).toEqual([[5, 35]])
  })

  it('ripple: later clips move along, and the words say by how much', async () => {
    const { pair, frames, body, trimEdge, clip, session } = await timeline()
    const [picture] = pair(0, 20)
    pair(20, 20)
    drag(
      body,
      (down) => trimEdge(down, clip(picture), 'end', 'ripple'),
      [
        [200, 10],
        [150, 10],
      ],
      { ctrlKey: true },
      false,
    )
    expect(session.label.value!.words).toContain('later clips move −0.17 s')
    body.dispatchEvent(pointer('pointerup', [150, 10]))
    expect(frames('Picture 1')).toEqual([
      [0, 15],
      [15, 20],
    ])
  })

  it('say what is in the way before they are let go, and change nothing then', async () => {
    const { pair, frames, body, trimEdge, clip, session, project, track } = await timeline()
    const [picture] = pair(0, 20)
    pair(20, 20)
    // A sound that belongs to nobody reaches across the cut, and another touches it.
    const loose = { assetId: HARBOUR.id, stream: 0, trackId: track('Voice').id, source: 0, link: null }
    const pieces = [
      { ...loose, clipId: crypto.randomUUID(), start: 10 * frame, length: 15 * frame },
      { ...loose, clipId: crypto.randomUUID(), start: 25 * frame, length: 10 * frame },
    ]
    project.perform({ type: 'place', mode: 'free', pieces })
    const places: [number, number][] = [
      [200, 10],
      [150, 10],
    ]
    drag(body, (down) => trimEdge(down, clip(picture), 'end', 'ripple'), places, { ctrlKey: true }, false)
    expect(session.label.value).toMatchObject({ bad: true, words: expect.stringContaining('reaches across') })
    body.dispatchEvent(pointer('pointerup', [150, 10]))
    expect(frames('Picture 1')).toEqual([
      [0, 20],
      [20, 20],
    ])
  })

  it('roll a cut between two clips; at an edge that touches nothing it trims', async () => {
    const { pair, frames, body, rollEdge, clip } = await timeline()
    const [left] = pair(0, 20, 10)
    pair(20, 20, 100)
    drag(
      body,
      (down) => rollEdge(down, clip(left), 'end'),
      [
        [200, 10],
        [250, 10],
      ],
      { ctrlKey: true },
    )
    expect(frames('Picture 1')).toEqual([
      [0, 25],
      [25, 15],
    ])
    drag(
      body,
      (down) => rollEdge(down, clip(left), 'start'),
      [
        [0, 10],
        [50, 10],
      ],
      { ctrlKey: true },
    )
    expect(frames('Picture 1')).toEqual([
      [5, 20],
      [25, 15],
    ])
  })

  it('slip the footage under a clip, within what there is, with its places in the source in words', async () => {
    const { pair, frames, body, slip, clip, session } = await timeline()
    const [picture] = pair(10, 20, 5)
    const source = () => (clip(picture) as Extract<Clip, { kind: 'media' }>).map.source / frame
    drag(
      body,
      (down) => slip(down, clip(picture)),
      [
        [200, 10],
        [170, 10],
      ],
      {},
      false,
    )
    expect(session.label.value!.words).toMatch(/source 0:00:00:08 → 0:00:00:28/)
    body.dispatchEvent(pointer('pointerup', [170, 10]))
    expect(source()).toBe(8)
    drag(body, (down) => slip(down, clip(picture)), [
      [200, 10],
      [600, 10],
    ])
    expect(source()).toBe(0)
    expect(frames('Picture 1')).toEqual([[10, 20]])
  })

  it('slide a clip: its neighbours give and take', async () => {
    const { pair, frames, body, slide, clip } = await timeline()
    pair(0, 20, 10)
    const [middle] = pair(20, 20, 100)
    pair(40, 20, 200)
    drag(
      body,
      (down) => slide(down, clip(middle)),
      [
        [300, 10],
        [350, 10],
      ],
      { ctrlKey: true },
    )
    expect(frames('Picture 1')).toEqual([
      [0, 25],
      [25, 20],
      [45, 15],
    ])
    drag(
      body,
      (down) => slide(down, clip(middle)),
      [
        [300, 10],
        [350, 10],
      ],
      { ctrlKey: true },
      false,
    )
    escape()
    expect(frames('Picture 1')).toEqual([
      [0, 25],
      [25, 20],
      [45, 15],
    ])
  })
})
