import { beforeEach, describe, expect, it } from 'vitest'
import { ref } from 'vue'
import { isAnimated } from '@dusk/timeline'
import { useViewerDrag } from '~/features/viewer/useViewerDrag'
import { boundsOf, outlineOf, type Outline } from '~/features/timeline/outlines'
import { openDesk } from './tools/desk'
import { SECOND } from './tools/server'
import { drag, escape, surface } from './tools/pointer'

const frame = SECOND / 30

const boxOf = (outline: Outline) => () => boundsOf(outline)

describe('drags on the picture', () => {
  let on: HTMLElement
  beforeEach(() => void (on = surface()))

  /** A viewer at half the reel's size, with one whole-frame picture. */
  async function viewer() {
    const studio = await openDesk()
    const [id] = studio.pair(0, 60)
    studio.desk.select([id], studio.project.document)
    const act = studio.within(() => useViewerDrag(ref(0.5)))
    const clip = () => studio.project.document!.clips[id]!
    const outline = () => outlineOf(studio.project.document!, clip(), studio.player.tick.value, new Map())!
    const box = new DOMRect(0, 0, 960, 540)
    return { ...studio, id, act, clip, outline, box }
  }

  it('move a picture in reel pixels, stick to the middle, and keep to one direction with Shift', async () => {
    const { act, clip, outline } = await viewer()
    const others = [] as never[]
    drag(on, (down) => act.move(down, boxOf(outline()), [outline()], others), [
      [400, 300],
      [500, 340],
    ])
    expect(clip().params.position).toEqual([200, 80])
    // Three pixels from the middle it goes there; Control lets it be.
    drag(on, (down) => act.move(down, boxOf(outline()), [outline()], others), [
      [500, 340],
      [403, 300],
    ])
    expect(clip().params.position).toEqual([0, 0])
    drag(
      on,
      (down) => act.move(down, boxOf(outline()), [outline()], others),
      [
        [400, 300],
        [403, 300],
      ],
      { ctrlKey: true },
    )
    expect(clip().params.position).toEqual([6, 0])
    drag(
      on,
      (down) => act.move(down, boxOf(outline()), [outline()], others),
      [
        [400, 300],
        [500, 330],
      ],
      { shiftKey: true, ctrlKey: true },
    )
    expect(clip().params.position).toEqual([206, 0])
  })

  it('size and turn several pictures about the middle of all of them', async () => {
    const { act, box, id, project, within: _within, ...studio } = await viewer()
    const [other] = studio.pair(0, 60, 100, 'Picture 2', 'Music')
    const clips = () => [id, other].map((one) => project.document!.clips[one]!)
    const place = (position: [number, number]) => ({ size: 40, position }) as never
    project.perform({
      type: 'setEach',
      clips: [[id, [-400, 0]] as const, [other, [400, 0]] as const].map(([clipId, at]) => ({
        clipId,
        set: place([...at]),
      })),
    })
    const outlines = () =>
      clips().map((clip) => outlineOf(project.document!, clip, studio.player.tick.value, new Map())!)
    drag(on, (down) => act.resizeAll(down, outlines(), box), [
      [680, 270],
      [580, 270],
    ])
    expect(clips().map(({ params }) => params.size)).toEqual([20, 20])
    expect(clips().map(({ params }) => params.position)).toEqual([
      [-200, 0],
      [200, 0],
    ])
    drag(on, (down) => act.rotateAll(down, outlines(), box), [
      [580, 270],
      [480, 370],
    ])
    expect(clips().map(({ params }) => params.rotation)).toEqual([90, 90])
    expect(clips().map(({ params }) => params.position)).toEqual([
      [0, -200],
      [0, 200],
    ])
  })

  it('show what is tried out, and take it back on Escape', async () => {
    const { act, clip, outline, player, project } = await viewer()
    const steps = project.history.done.length
    drag(
      on,
      (down) => act.move(down, boxOf(outline()), [outline()], []),
      [
        [400, 300],
        [480, 300],
      ],
      {},
      false,
    )
    expect(act.trial.value!.clips[clip().id]!.params.position).toEqual([160, 0])
    expect(act.words.value).toBe('160, 0 px')
    escape()
    expect(act.trial.value).toBeNull()
    expect(player.tried.at(-1)).toBeNull()
    expect(clip().params.position).toBeUndefined()
    expect(project.history.done.length).toBe(steps)
  })

  it('size about the anchor, with full size easy to find', async () => {
    const { act, clip, outline, box } = await viewer()
    // The anchor is in the middle, at 480, 270 on screen.
    drag(on, (down) => act.resize(down, outline(), box), [
      [680, 270],
      [580, 270],
    ])
    expect(clip().params.size).toBe(50)
    drag(on, (down) => act.resize(down, outline(), box), [
      [580, 270],
      [681, 270],
    ])
    expect(clip().params.size ?? 100).toBe(100)
  })

  it('turn about the anchor, past half a turn without a jump, and in steps with Shift', async () => {
    const { act, clip, outline, box } = await viewer()
    const around = (degrees: number): [number, number] => [
      480 + 200 * Math.cos((degrees * Math.PI) / 180),
      270 + 200 * Math.sin((degrees * Math.PI) / 180),
    ]
    const turnBy = (degrees: number) => Array.from({ length: 21 }, (_, i) => around((degrees * i) / 20))
    drag(on, (down) => act.rotate(down, outline(), box), turnBy(200), { ctrlKey: true })
    expect(clip().params.rotation).toBeCloseTo(200, 0)
    drag(on, (down) => act.rotate(down, outline(), box), turnBy(-160), { ctrlKey: true })
    expect(clip().params.rotation).toBeCloseTo(40, 0)
    drag(on, (down) => act.rotate(down, outline(), box), turnBy(8), { shiftKey: true })
    expect(clip().params.rotation).toBe(45)
  })

  it('crop a side, never past the other', async () => {
    const { act, clip, outline, box } = await viewer()
    drag(on, (down) => act.crop(down, outline(), 'Left', box), [
      [0, 270],
      [240, 270],
    ])
    expect(clip().params.cropLeft).toBe(25)
    drag(on, (down) => act.crop(down, outline(), 'Right', box), [
      [960, 270],
      [100, 270],
    ])
    expect(clip().params.cropRight).toBe(75)
  })

  it.each([
    ['plain', {}],
    ['flipped', { flipHorizontal: true }],
    ['flipped and turned', { flipVertical: true, rotation: 20 }],
  ])('put the anchor elsewhere while the picture stays where it is: %s', async (_how, params) => {
    const { act, clip, outline, box, project } = await viewer()
    project.perform({ type: 'setParams', clipIds: [clip().id], set: params as never })
    drag(on, (down) => act.resize(down, outline(), box), [
      [680, 270],
      [580, 270],
    ])
    const before = outline().corners
    drag(on, (down) => act.moveAnchor(down, outline(), box), [
      [480, 270],
      [242, 136],
    ])
    if (_how === 'plain') expect(clip().params.anchor).toEqual([0, 0])
    expect(clip().params.anchor).not.toEqual([50, 50])
    outline().corners.forEach(([x, y], i) => {
      expect(x).toBeCloseTo(before[i]![0], 3)
      expect(y).toBeCloseTo(before[i]![1], 3)
    })
  })

  it('make a slanted line level, and grow the picture until no corner shows', async () => {
    const { act, clip, outline, box } = await viewer()
    drag(on, (down) => act.level(down, outline(), box), [
      [200, 270],
      [600, 270 + 400 * Math.tan((5 * Math.PI) / 180)],
    ])
    expect(clip().params.rotation).toBe(-5)
    const size = clip().params.size as number
    expect(size).toBeGreaterThan(110)
    for (const corner of [
      [0, 0],
      [1920, 0],
      [0, 1080],
      [1920, 1080],
    ] as const) {
      const [a, b, c, d] = outline().corners
      // Pixels by which the frame's corner lies within an edge of the picture.
      const within = (p: readonly number[], q: readonly number[]) =>
        ((q[0]! - p[0]!) * (corner[1] - p[1]!) - (q[1]! - p[1]!) * (corner[0] - p[0]!)) /
        Math.hypot(q[0]! - p[0]!, q[1]! - p[1]!)
      for (const [p, q] of [
        [a, b],
        [b, c],
        [c, d],
        [d, a],
      ])
        expect(within(p!, q!)).toBeGreaterThanOrEqual(-0.5)
    }
  })

  it('set a keyframe where the setting has any, and move or bend a path’s points', async () => {
    const { act, clip, outline, player, project, id } = await viewer()
    project.perform({
      type: 'setParams',
      clipIds: [id],
      set: {
        position: {
          keys: [
            { at: 0, value: [0, 0], ease: 'both' },
            { at: 40 * frame, value: [400, 0], ease: 'both' },
          ],
        },
      } as never,
    })
    player.seek(20 * frame)
    drag(
      on,
      (down) => act.move(down, boxOf(outline()), [outline()], []),
      [
        [400, 300],
        [400, 350],
      ],
      { ctrlKey: true },
    )
    const keys = () => {
      const { position } = clip().params
      return isAnimated(position!) ? position.keys : []
    }
    expect(keys().map((key) => key.at / frame)).toEqual([0, 20, 40])
    expect((keys()[1]!.value as number[])[1]).toBe(100)
    drag(on, (down) => act.movePoint(down, clip(), 40 * frame), [
      [600, 300],
      [610, 290],
    ])
    expect(keys()[2]!.value).toEqual([420, -20])
    act.toggleBend(clip(), 20 * frame)
    expect(keys()[1]!.bend).toBeDefined()
    const [bx, by] = keys()[1]!.bend!
    drag(on, (down) => act.bendPoint(down, clip(), 20 * frame, 1), [
      [600, 300],
      [610, 320],
    ])
    expect(keys()[1]!.bend).toEqual([bx + 20, by + 40])
    act.toggleBend(clip(), 20 * frame)
    expect(keys()[1]!.bend).toBeUndefined()
  })

  it('move by arrow keys', async () => {
    const { act, clip } = await viewer()
    act.nudge([clip()], 10, 0)
    act.nudge([clip()], 0, -1)
    expect(clip().params.position).toEqual([10, -1])
  })
})
