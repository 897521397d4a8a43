import { definePicture, num, number, percent, preset, swing } from '../define'
import { bent } from '../tools/bent'
import { centre, centreOf } from '../tools/place'

/**
 * Straight lines made straight again, or round: radial distortion of the second and fourth degree (D. C. Brown,
 * "Decentering distortion of lenses", 1966, without decentring).
 */
export const lens = definePicture({
  id: 'lens',
  name: 'Lens',
  family: 'bend',
  hint: 'Above zero straightens what a wide lens bent outwards, below zero bends like a fish eye.',
  params: [
    swing('bend', 'Bend', 35),
    swing('edge', 'At the edges', 0),
    number('zoom', 'Enlarge', 50, 300, 100, { unit: '%', digits: 0 }),
    percent('fill', 'Fill the frame', 100),
    ...centre,
  ],
  presets: [
    preset('actionCamera', 'Action camera', { bend: 45, edge: 10 }),
    preset('fishEyed', 'Through a peephole', { bend: -90, edge: -30 }),
  ],
  draw(stage, settings) {
    const { bounds } = stage
    const [cx, cy] = centreOf(stage, settings)
    const half = Math.sqrt(bounds.width * bounds.width + bounds.height * bounds.height) / 2
    const [k1, k2] = [-num(settings, 'bend') / 220, -num(settings, 'edge') / 300]
    // At the middle of the long sides nothing is left empty.
    const side = Math.max(bounds.width, bounds.height) / 2 / half
    const grown = 1 + k1 * side * side + k2 * side ** 4
    const fill = 1 + (1 / Math.max(0.3, grown) - 1) * (num(settings, 'fill') / 100)
    const zoom = (100 / num(settings, 'zoom')) * (grown > 1 ? fill : 1)
    bent(
      stage,
      (x, y) => {
        const [dx, dy] = [((x - cx) / half) * zoom, ((y - cy) / half) * zoom]
        const r2 = dx * dx + dy * dy
        const by = (1 + k1 * r2 + k2 * r2 * r2) * half
        return [cx + dx * by, cy + dy * by]
      },
      { empty: true },
    )
  },
})
