import type { MoveKind } from './define'
import { fade } from './moves/fade'
import { rise } from './moves/rise'
import { sink } from './moves/sink'
import { fromLeft } from './moves/fromLeft'
import { fromRight } from './moves/fromRight'
import { swell } from './moves/swell'
import { settle } from './moves/settle'
import { pop } from './moves/pop'
import { bounce } from './moves/bounce'
import { typed } from './moves/typed'
import { twist } from './moves/twist'
import { wheel } from './moves/wheel'
import { hinge } from './moves/hinge'
import { unfold } from './moves/unfold'
import { widen } from './moves/widen'
import { scatter } from './moves/scatter'
import { drizzle } from './moves/drizzle'
import { flicker } from './moves/flicker'
import { surface } from './moves/surface'
import { curl } from './moves/curl'
import { breathe } from './moves/breathe'
import { bob } from './moves/bob'
import { sway } from './moves/sway'
import { ripple } from './moves/ripple'
import { shimmer } from './moves/shimmer'
import { tremble } from './moves/tremble'
import { pulse } from './moves/pulse'
import { rock } from './moves/rock'

/** Every move of a title's parts, in the order it is shown. */
export const MOVES: readonly MoveKind[] = [
  fade,
  rise,
  sink,
  fromLeft,
  fromRight,
  swell,
  settle,
  pop,
  bounce,
  typed,
  twist,
  wheel,
  hinge,
  unfold,
  widen,
  scatter,
  drizzle,
  flicker,
  surface,
  curl,
  breathe,
  bob,
  sway,
  ripple,
  shimmer,
  tremble,
  pulse,
  rock,
]

/** The move of a name, or `null`. */
export function moveById(id: string): MoveKind | null {
  return MOVES.find((kind) => kind.id === id) ?? null
}
