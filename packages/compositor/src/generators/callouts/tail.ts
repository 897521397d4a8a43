import type { Param } from '@dusk/timeline'
import { number, type Settings } from '../define'

/** Where a callout points, from its middle, in reel pixels. */
export const tailParams = (x: number, y: number): Param[] => [
  number('tailX', 'Points to →', -4000, 4000, x, 'px'),
  number('tailY', 'Points to ↓', -4000, 4000, y, 'px'),
]

/** How far a callout's tail reaches beyond its box. */
export function tailRoom({ tailX, tailY, width, height }: Settings): number {
  return Math.max(Math.abs(Number(tailX)) - Number(width) / 2, Math.abs(Number(tailY)) - Number(height) / 2, 0) + 20
}
