import { shallowRef, type Ref } from 'vue'
import {
  changeAt,
  clipLook,
  invert,
  isAnimated,
  placeMatrix,
  reading,
  snapToFrame,
  sourceOf,
  type Animated,
  type Clip,
  type CommandInput,
  type Fit,
  type Point,
  type Project,
} from '@dusk/timeline'
import { pointerDrag } from '~/features/ui/pointerDrag'
import { at, boundsOf, guideLines, stickTo, type GuideLine, type Outline } from '~/features/timeline/outlines'
import { panned } from './cells'
import { covers, sizeToCover } from './covering'
import { usePathDrag } from './usePathDrag'
import { useDesk } from '~/features/timeline/deskStore'
import { useProject } from '~/features/project/projectStore'
import { tried } from '~/features/project/tried'
import { usePlayer, usePlayhead } from '~/features/player/usePlayhead'

/** Screen pixels within which a drag sticks to a guide line. */
const STICK = 7

export type Patch = Record<string, Animated | null>

/** Drags on the picture: moving, sizing, turning, cropping. Tried out while they last, one command when they end. */
export function useViewerDrag(scale: Ref<number>) {
  const project = useProject()
  const desk = useDesk()
  const player = usePlayer()
  const playhead = usePlayhead()
  /** The document as it is tried out, for drawing the outlines; `null` when nothing is dragged. */
  const trial = shallowRef<Project | null>(null)
  const lines = shallowRef<GuideLine[]>([])
  const words = shallowRef('')
  /** The line that is dragged along a horizon, in reel pixels. */
  const levelLine = shallowRef<[Point, Point] | null>(null)

  const clipTime = (clip: Clip) => clip.head + snapToFrame(playhead.now(), project.reel!.format.rate) - clip.start
  /** How a clip's picture is fitted into the reel. */
  const ownFit = (clip: Clip): Fit =>
    clip.kind === 'media' || clip.kind === 'reel' ? (clip.fit ?? project.reel!.fit) : 'stretch'
  const lookOf = (clip: Clip) => clipLook(clip.params, clipTime(clip))
  /** A new value of a setting at the playhead: a keyframe where it has any. */
  const changed = (clip: Clip, key: string, value: number | Point, initial: number | Point): Animated => {
    const old = clip.params[key] ?? initial
    return isAnimated(old) ? changeAt(old, clipTime(clip), value) : value
  }

  function tryOut(command: CommandInput): void {
    const next = tried(project.document!, command)?.project
    if (!next) return
    trial.value = next
    player.tryOut(next)
  }

  /** Follows the pointer. `make` gives the settings for where it is; each clip's are one command of the whole. */
  function follow(down: PointerEvent, make: (event: PointerEvent) => { clip: Clip; set: Patch }[]): void {
    let last: CommandInput | null = null
    pointerDrag(down, {
      move(event) {
        const clips = make(event).map(({ clip, set }) => ({ clipId: clip.id, set: set as never }))
        last = { type: 'setEach', clips }
        tryOut(last)
      },
      done() {
        trial.value = null
        if (last) project.perform(last)
        else player.tryOut(null)
      },
      cancel() {
        trial.value = null
        player.tryOut(null)
      },
      end() {
        lines.value = []
        words.value = ''
      },
    })
  }

  /**
   * Moves clips; the one that is held sticks to guide lines.
   * @param held its box at the moment, as it was before the drag: words may only be measured while it lasts
   */
  function move(
    down: PointerEvent,
    held: () => ReturnType<typeof boundsOf>,
    together: readonly Outline[],
    others: readonly Outline[],
  ): void {
    const format = project.reel!.format
    const guides = guideLines(format, others)
    follow(down, (event) => {
      const box = held()
      let [dx, dy] = [(event.clientX - down.clientX) / scale.value, (event.clientY - down.clientY) / scale.value]
      if (event.shiftKey) [dx, dy] = Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, dy]
      lines.value = []
      if (desk.snap !== event.ctrlKey) {
        const reach = STICK / scale.value
        const x = stickTo([box.left + dx, (box.left + box.right) / 2 + dx, box.right + dx], guides, 'x', reach)
        const y = stickTo([box.top + dy, (box.top + box.bottom) / 2 + dy, box.bottom + dy], guides, 'y', reach)
        dx += x?.by ?? 0
        dy += y?.by ?? 0
        lines.value = [x?.line, y?.line].filter((line) => line !== undefined)
      }
      const round = (value: number) => Math.round(value * 10) / 10
      return together.map(({ clip }) => {
        const [px, py] = lookOf(clip).position
        const to: Point = [round(px + dx), round(py + dy)]
        words.value = `${Math.round(to[0])}, ${Math.round(to[1])} px`
        return { clip, set: { position: changed(clip, 'position', to, [0, 0]) } }
      })
    })
  }

  /** Moves a picture under its crop: the cell stays, another part is seen in it. */
  function pan(down: PointerEvent, { clip }: Outline): void {
    follow(down, (event) => {
      let by: Point = [(event.clientX - down.clientX) / scale.value, (event.clientY - down.clientY) / scale.value]
      if (event.shiftKey) by = Math.abs(by[0]) > Math.abs(by[1]) ? [by[0], 0] : [0, by[1]]
      words.value = 'the picture in its cell; with Alt the cell moves'
      return [{ clip, set: panned(project.document!, clip, by) }]
    })
  }

  const reelPoint = (event: PointerEvent, frame: DOMRect): Point => [
    (event.clientX - frame.left) / scale.value,
    (event.clientY - frame.top) / scale.value,
  ]

  /** Makes a clip larger or smaller about its anchor. */
  function resize(down: PointerEvent, { clip, anchor }: Outline, frame: DOMRect): void {
    const { size } = lookOf(clip)
    const away = (event: PointerEvent) => {
      const [x, y] = reelPoint(event, frame)
      return Math.max(1, Math.hypot(x - anchor[0], y - anchor[1]))
    }
    const begin = away(down)
    follow(down, (event) => {
      let to = Math.min(10_000, Math.max(0.1, (size * away(event)) / begin))
      // Full size is easy to find again.
      if (desk.snap !== event.ctrlKey && Math.abs(to - 100) < 2) to = 100
      to = Math.round(to * 10) / 10
      words.value = `${to} %`
      return [{ clip, set: { size: changed(clip, 'size', to, 100) } }]
    })
  }

  /** Makes several clips larger or smaller together, about the middle of all of them. */
  function resizeAll(down: PointerEvent, outlines: readonly Outline[], frame: DOMRect): void {
    const middle = middleOf(outlines)
    const away = (event: PointerEvent) => {
      const [x, y] = reelPoint(event, frame)
      return Math.max(1, Math.hypot(x - middle[0], y - middle[1]))
    }
    const begin = away(down)
    const least = Math.max(...outlines.map(({ clip }) => 0.1 / lookOf(clip).size))
    const most = Math.min(...outlines.map(({ clip }) => 10_000 / lookOf(clip).size))
    follow(down, (event) => {
      let factor = Math.min(Math.max(away(event) / begin, least), most)
      if (desk.snap !== event.ctrlKey && Math.abs(factor - 1) < 0.02) factor = 1
      words.value = `${Math.round(factor * 100)} % of what they were`
      return outlines.map(({ clip, anchor }) => ({
        clip,
        set: {
          size: changed(clip, 'size', tenth(lookOf(clip).size * factor), 100),
          position: changed(clip, 'position', about(clip, anchor, middle, factor, 0), [0, 0]),
        },
      }))
    })
  }

  /** Turns several clips together about the middle of all of them. */
  function rotateAll(down: PointerEvent, outlines: readonly Outline[], frame: DOMRect): void {
    const middle = middleOf(outlines)
    turning(down, middle, 0, frame, (angle) =>
      outlines.map(({ clip, anchor }) => ({
        clip,
        set: {
          rotation: changed(clip, 'rotation', tenth(lookOf(clip).rotation + angle), 0),
          position: changed(clip, 'position', about(clip, anchor, middle, 1, angle), [0, 0]),
        },
      })),
    )
  }

  const tenth = (value: number) => Math.round(value * 10) / 10

  function middleOf(outlines: readonly Outline[]): Point {
    const boxes = outlines.map(boundsOf)
    const [left, right] = [Math.min(...boxes.map((box) => box.left)), Math.max(...boxes.map((box) => box.right))]
    const [top, bottom] = [Math.min(...boxes.map((box) => box.top)), Math.max(...boxes.map((box) => box.bottom))]
    return [(left + right) / 2, (top + bottom) / 2]
  }

  /** Where a clip lies once its anchor went away from a middle by a factor, and about it by an angle in degrees. */
  function about(clip: Clip, anchor: Point, middle: Point, factor: number, angle: number): Point {
    const { position } = lookOf(clip)
    const [dx, dy] = [anchor[0] - middle[0], anchor[1] - middle[1]]
    const [sin, cos] = [Math.sin((angle * Math.PI) / 180), Math.cos((angle * Math.PI) / 180)]
    const to: Point = [factor * (dx * cos - dy * sin), factor * (dx * sin + dy * cos)]
    return [tenth(position[0] + to[0] - dx), tenth(position[1] + to[1] - dy)]
  }

  /** Makes a clip wider or narrower. */
  function stretch(down: PointerEvent, outline: Outline, frame: DOMRect): void {
    const { clip, matrix, anchor } = outline
    const look = lookOf(clip)
    const [a, b] = matrix
    const length = Math.hypot(a, b) || 1
    const along = (event: PointerEvent) => {
      const [x, y] = reelPoint(event, frame)
      return Math.abs(((x - anchor[0]) * a + (y - anchor[1]) * b) / length)
    }
    const begin = Math.max(1, along(down))
    follow(down, (event) => {
      let to = Math.min(2000, Math.max(5, (look.stretch * along(event)) / begin))
      if (desk.snap !== event.ctrlKey && Math.abs(to - 100) < 2) to = 100
      to = Math.round(to * 10) / 10
      words.value = `width ${to} %`
      return [{ clip, set: { stretch: changed(clip, 'stretch', to, 100) } }]
    })
  }

  /** Turns a clip about its anchor. */
  function rotate(down: PointerEvent, { clip, anchor }: Outline, frame: DOMRect): void {
    turning(down, anchor, lookOf(clip).rotation, frame, (to) => [
      { clip, set: { rotation: changed(clip, 'rotation', to, 0) } },
    ])
  }

  /** Follows a turn about a middle; near to upright, and with Shift in steps of 15°, it sticks. */
  function turning(
    down: PointerEvent,
    middle: Point,
    begin: number,
    frame: DOMRect,
    make: (degrees: number) => { clip: Clip; set: Patch }[],
  ): void {
    const angle = (event: PointerEvent) => {
      const [x, y] = reelPoint(event, frame)
      return (Math.atan2(y - middle[1], x - middle[0]) * 180) / Math.PI
    }
    let last = angle(down)
    let total = 0
    follow(down, (event) => {
      // Step by step, so that more than half a turn does not jump to the other side.
      const now = angle(event)
      total += ((now - last + 540) % 360) - 180
      last = now
      let to = begin + total
      const step = event.shiftKey ? 15 : 90
      const near = Math.round(to / step) * step
      if (event.shiftKey || (desk.snap !== event.ctrlKey && Math.abs(to - near) < 3)) to = near
      to = tenth(to)
      words.value = `${to}°`
      return make(to)
    })
  }

  /** Turns a clip so that the line that is dragged lies level (or upright), and enlarges it until no corner shows. */
  function level(down: PointerEvent, { clip }: Outline, frame: DOMRect): void {
    const begin = reelPoint(down, frame)
    const keep = () => {
      const line = levelLine.value
      levelLine.value = null
      if (!line || Math.hypot(line[1][0] - line[0][0], line[1][1] - line[0][1]) < 20) return
      const angle = (Math.atan2(line[1][1] - line[0][1], line[1][0] - line[0][0]) * 180) / Math.PI
      // The nearest of level and upright is meant.
      const off = angle - Math.round(angle / 90) * 90
      const look = lookOf(clip)
      const turned = Math.round((look.rotation - off) * 10) / 10
      const { format } = project.reel!
      const picture = pictureSize(project.document!, clip)
      const own = ownFit(clip)
      // A picture that leaves part of the frame free goes on doing so.
      const whole = picture && covers(look, own, picture, format)
      const size = whole ? sizeToCover({ ...look, rotation: turned }, own, picture, format) : look.size
      project.perform({
        type: 'setEach',
        clips: [
          {
            clipId: clip.id,
            set: {
              rotation: changed(clip, 'rotation', turned, 0) as never,
              size: changed(clip, 'size', size, 100) as never,
            },
          },
        ],
      })
    }
    pointerDrag(down, {
      move: (event) => (levelLine.value = [begin, reelPoint(event, frame)]),
      done: keep,
      end: () => (levelLine.value = null),
    })
  }

  /** Crops a side of a clip. */
  function crop(down: PointerEvent, outline: Outline, side: 'Left' | 'Right' | 'Top' | 'Bottom', frame: DOMRect): void {
    const { clip, matrix } = outline
    const back = invert(matrix)
    const look = lookOf(clip)
    const size = project.document && pictureSize(project.document, clip)
    if (!back || !size) return
    const opposite = { Left: look.cropRight, Right: look.cropLeft, Top: look.cropBottom, Bottom: look.cropTop }[side]
    follow(down, (event) => {
      const [u, v] = at(back, ...reelPoint(event, frame))
      const part = {
        Left: u / size.width,
        Right: 1 - u / size.width,
        Top: v / size.height,
        Bottom: 1 - v / size.height,
      }[side]
      const to = Math.round(Math.min(Math.max(part * 100, 0), 100 - opposite) * 10) / 10
      words.value = `${to} % off`
      return [{ clip, set: { [`crop${side}`]: changed(clip, `crop${side}`, to, 0) } }]
    })
  }

  /** Moves the anchor; the picture stays where it is. */
  function moveAnchor(down: PointerEvent, outline: Outline, frame: DOMRect): void {
    const { clip, matrix } = outline
    const back = invert(matrix)
    const size = project.document && pictureSize(project.document, clip)
    if (!back || !size) return
    const look = lookOf(clip)
    follow(down, (event) => {
      const [u, v] = at(back, ...reelPoint(event, frame))
      const part = (value: number, whole: number) => {
        const percent = Math.min(300, Math.max(-200, (value / whole) * 100))
        const near = [0, 50, 100].find((mark) => Math.abs(mark - percent) < 3)
        return Math.round((desk.snap !== event.ctrlKey && near !== undefined ? near : percent) * 10) / 10
      }
      const to: Point = [part(u, size.width), part(v, size.height)]
      // What the new anchor moves, the position puts back, however the picture is turned and flipped.
      const placed = (anchor: Point) =>
        at(placeMatrix({ ...look, anchor }, ownFit(clip), size, project.reel!.format), 0, 0)
      const [[x0, y0], [x1, y1]] = [placed(look.anchor), placed(to)]
      const position: Point = [look.position[0] + x0 - x1, look.position[1] + y0 - y1]
      words.value = `anchor ${Math.round(to[0])}, ${Math.round(to[1])} %`
      return [
        {
          clip,
          set: { anchor: changed(clip, 'anchor', to, [50, 50]), position: changed(clip, 'position', position, [0, 0]) },
        },
      ]
    })
  }

  /** Moves what is selected by pixels, as the arrow keys do. */
  function nudge(clips: readonly Clip[], dx: number, dy: number): void {
    const moved = clips.map((clip) => {
      const [x, y] = lookOf(clip).position
      return { clipId: clip.id, set: { position: changed(clip, 'position', [x + dx, y + dy], [0, 0]) as never } }
    })
    project.perform({ type: 'setEach', clips: moved }, `nudge ${clips.map((clip) => clip.id).join()}`)
  }

  const path = usePathDrag(scale, words, follow)

  return {
    ...path,
    trial,
    lines,
    words,
    levelLine,
    level,
    move,
    pan,
    resize,
    resizeAll,
    rotateAll,
    stretch,
    rotate,
    crop,
    moveAnchor,
    nudge,
  }
}

export type ViewerDrag = ReturnType<typeof useViewerDrag>

/** A clip's picture in its own pixels. */
function pictureSize(project: Project, clip: Clip): { width: number; height: number } | null {
  return sourceOf(reading(project), clip)?.picture ?? null
}
