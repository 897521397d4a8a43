import { computed, type Ref } from 'vue'
import { sinCosDegrees, type MaskShape, type Point } from '@dusk/timeline'
import { pointsOf, settingOf } from './maskEdit'
import type { MaskPlane } from './useMaskGround'

/**
 * Where a shape of a mask lies: its place, size and outline on screen, and the ways between screen, parts of the
 * picture and its own directions. Asked only while there is a ground.
 * @param scale screen pixels per reel pixel
 */
export function useMaskShape(shape: Ref<MaskShape | null>, ground: Ref<MaskPlane | null>, scale: () => number) {
  const screen = (part: Point): Point => {
    const [x, y] = ground.value!.toReel(part)
    return [x * scale(), y * scale()]
  }

  const time = computed(() => ground.value?.time ?? 0)
  const round = (value: number) => Math.round(value * 10) / 10
  const position = computed<Point>(() =>
    shape.value ? settingOf<Point>(shape.value, 'position', time.value) : [50, 50],
  )
  const rotation = computed(() => (shape.value ? settingOf<number>(shape.value, 'rotation', time.value) : 0))
  const isBox = computed(() => ['rectangle', 'ellipse', 'radial'].includes(shape.value?.kind ?? ''))
  const grown = computed(() => (shape.value ? settingOf<number>(shape.value, 'scale', time.value) : 100) / 100)

  /** A place about the shape's middle, in picture pixels along its own directions, as parts of the picture. */
  function about(u: number, v: number): Point {
    const { width, height } = ground.value!
    const [sin, cos] = sinCosDegrees(rotation.value)
    const [x, y] = position.value
    return [x + ((u * cos - v * sin) / width) * 100, y + ((u * sin + v * cos) / height) * 100]
  }
  /** The other way: how far a part of the picture lies along the shape's own directions, in picture pixels. */
  function along([x, y]: Point): Point {
    const { width, height } = ground.value!
    const [sin, cos] = sinCosDegrees(rotation.value)
    const [dx, dy] = [((x - position.value[0]) * width) / 100, ((y - position.value[1]) * height) / 100]
    return [dx * cos + dy * sin, dy * cos - dx * sin]
  }
  const half = computed<Point>(() => {
    if (!shape.value || !ground.value) return [0, 0]
    const { width, height } = ground.value
    if (shape.value.kind === 'straight')
      return [0, (settingOf<number>(shape.value, 'length', time.value) * height) / 200]
    if (!isBox.value) return [0, 0]
    const [w, h] = settingOf<Point>(shape.value, 'size', time.value)
    return [(w * width) / 200, (h * height) / 200]
  })

  const points = computed(() => (shape.value?.kind === 'pen' ? pointsOf(shape.value, time.value) : []))
  const penPart = ([x, y]: readonly [number, number]): Point => {
    const { width, height } = ground.value!
    return about((x * width * grown.value) / 100, (y * height * grown.value) / 100)
  }
  /** A part of the picture as an outline's point holds it: about the position, before it is turned and enlarged. */
  function penPlace(part: Point): Point {
    const { width, height } = ground.value!
    const [u, v] = along(part)
    return [(u / width / grown.value) * 100, (v / height / grown.value) * 100]
  }

  const outline = computed(() => {
    if (!shape.value || !ground.value) return ''
    const [hx, hy] = half.value
    const at = (u: number, v: number) => screen(about(u, v)).join(' ')
    switch (shape.value!.kind) {
      case 'rectangle':
        return `M${at(-hx, -hy)}L${at(hx, -hy)}L${at(hx, hy)}L${at(-hx, hy)}Z`
      case 'ellipse':
      case 'radial':
        return `M${Array.from({ length: 48 }, (_, i) => {
          const [sin, cos] = sinCosDegrees(i * 7.5)
          return at(hx * cos, hy * sin)
        }).join('L')}Z`
      case 'straight': {
        const wide = ground.value!.width / 3
        return `M${at(-wide, -hy)}L${at(wide, -hy)}M${at(0, -hy)}L${at(0, hy)}M${at(-wide, hy)}L${at(wide, hy)}`
      }
      case 'pen':
        return points.value
          .map(([x, y, inX, inY], i, all) => {
            const before = all.at(i - 1)!
            const to = screen(penPart([x, y])).join(' ')
            if (i === 0) return `M${to}`
            const out = screen(penPart([before[0] + before[4], before[1] + before[5]]))
            const into = screen(penPart([x + inX, y + inY]))
            return `C${out.join(' ')} ${into.join(' ')} ${to}`
          })
          .join('')
          .concat(closing())
      default:
        return ''
    }
  })
  /** The last side of a pen's outline, back to its first point. */
  function closing(): string {
    const [first, last] = [points.value[0], points.value.at(-1)]
    if (!first || !last || points.value.length < 3) return ''
    const [a, b] = [
      penPart([last[0] + last[4], last[1] + last[5]]),
      penPart([first[0] + first[2], first[1] + first[3]]),
    ]
    return `C${screen(a).join(' ')} ${screen(b).join(' ')} ${screen(penPart([first[0], first[1]])).join(' ')}Z`
  }

  return {
    time,
    position,
    rotation,
    isBox,
    grown,
    half,
    points,
    outline,
    screen,
    about,
    along,
    penPart,
    penPlace,
    round,
  }
}
