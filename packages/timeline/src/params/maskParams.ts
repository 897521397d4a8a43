import type { MaskShape } from '../document/mask'
import type { Param } from './spec'

/** Settings of the shapes of masks, and which kinds of shape have each. */
const ALL: readonly (Param & { of?: readonly MaskShape['kind'][] })[] = [
  { kind: 'point', key: 'position', label: 'Position', min: -200, max: 300, default: [50, 50], unit: '%', digits: 1 },
  {
    ...{ kind: 'point', key: 'size', label: 'Size', min: 0, max: 400, default: [50, 50], unit: '%', digits: 1 },
    of: ['rectangle', 'ellipse', 'radial'],
  },
  {
    ...{ kind: 'number', key: 'scale', label: 'Size', min: 1, max: 1000, default: 100, unit: '%', digits: 1 },
    of: ['pen', 'brush'],
  },
  {
    ...{ kind: 'number', key: 'length', label: 'Length', min: 0, max: 400, default: 40, unit: '%', digits: 1 },
    of: ['straight'],
  },
  { kind: 'number', key: 'rotation', label: 'Rotation', min: -3600, max: 3600, default: 0, unit: '°', digits: 1 },
  {
    ...{ kind: 'number', key: 'corner', label: 'Round corners', min: 0, max: 2000, default: 0, unit: 'px' },
    of: ['rectangle'],
  },
  {
    ...{ kind: 'number', key: 'inner', label: 'Feather inwards', min: 0, max: 1000, default: 0, unit: 'px' },
    of: ['rectangle', 'ellipse', 'pen', 'brush'],
  },
  {
    ...{ kind: 'number', key: 'outer', label: 'Feather outwards', min: 0, max: 1000, default: 12, unit: 'px' },
    of: ['rectangle', 'ellipse', 'pen', 'brush'],
  },
  {
    ...{ kind: 'number', key: 'grow', label: 'Grow', min: -500, max: 500, default: 0, unit: 'px' },
    of: ['rectangle', 'ellipse', 'pen', 'brush'],
  },
  { kind: 'number', key: 'opacity', label: 'Opacity', min: 0, max: 100, default: 100, unit: '%' },
  { kind: 'switch', key: 'invert', label: 'The other way round', default: false, fixed: true },
]

/** Settings that a kind of shape has. Lengths in px are of the reel; parts in percent are of the picture. */
export const maskParams = (kind: MaskShape['kind']): readonly Param[] =>
  ALL.filter(({ of }) => !of || of.includes(kind)).map(({ of: _, ...param }) => param)
