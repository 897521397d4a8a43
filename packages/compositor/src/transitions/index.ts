import type { TransitionKind } from './define'
import { dissolve } from './dissolves/dissolve'
import { bloomDissolve } from './dissolves/bloomDissolve'
import { grain } from './dissolves/grain'
import { mist } from './dissolves/mist'
import { inkwell } from './dissolves/inkwell'
import { brightFirst } from './dissolves/brightFirst'
import { darkFirst } from './dissolves/darkFirst'
import { patches } from './dissolves/patches'
import { dip } from './dips/dip'
import { flash } from './dips/flash'
import { blink } from './dips/blink'
import { irisShut } from './dips/irisShut'
import { emberDim } from './dips/emberDim'
import { throughBlur } from './dips/throughBlur'
import { wipe } from './wipes/wipe'
import { clock } from './wipes/clock'
import { twoHands } from './wipes/twoHands'
import { fan } from './wipes/fan'
import { radar } from './wipes/radar'
import { iris } from './wipes/iris'
import { oval } from './wipes/oval'
import { diamond } from './wipes/diamond'
import { window } from './wipes/window'
import { star } from './wipes/star'
import { heart } from './wipes/heart'
import { cross } from './wipes/cross'
import { barnDoors } from './wipes/barnDoors'
import { blinds } from './wipes/blinds'
import { stairs } from './wipes/stairs'
import { comb } from './wipes/comb'
import { checks } from './wipes/checks'
import { spiral } from './wipes/spiral'
import { tide } from './wipes/tide'
import { sawtooth } from './wipes/sawtooth'
import { rings } from './wipes/rings'
import { dots } from './wipes/dots'
import { honeycomb } from './wipes/honeycomb'
import { bricks } from './wipes/bricks'
import { rain } from './wipes/rain'
import { brush } from './wipes/brush'
import { shore } from './wipes/shore'
import { lattice } from './wipes/lattice'
import { push } from './slides/push'
import { slideOver } from './slides/slideOver'
import { slideAway } from './slides/slideAway'
import { whip } from './slides/whip'
import { partHalves } from './slides/partHalves'
import { ladder } from './slides/ladder'
import { crossing } from './slides/crossing'
import { drop } from './slides/drop'
import { trade } from './slides/trade'
import { zoomThrough } from './zooms/zoomThrough'
import { stepBack } from './zooms/stepBack'
import { stepUp } from './zooms/stepUp'
import { dive } from './zooms/dive'
import { spin } from './zooms/spin'
import { whirl } from './zooms/whirl'
import { tumble } from './zooms/tumble'
import { rollIn } from './zooms/rollIn'
import { pop } from './zooms/pop'
import { cornerPin } from './zooms/cornerPin'
import { softDissolve } from './lights/softDissolve'
import { glide } from './lights/glide'
import { haze } from './lights/haze'
import { overglow } from './lights/overglow'
import { lightLeak } from './lights/lightLeak'
import { beam } from './lights/beam'
import { burn } from './lights/burn'
import { lens } from './lights/lens'
import { rippleWater } from './lights/rippleWater'
import { flip } from './folds/flip'
import { box } from './folds/box'
import { pageTurn } from './folds/pageTurn'
import { pleats } from './folds/pleats'
import { tileFlip } from './folds/tileFlip'
import { shatter } from './folds/shatter'
import { gather } from './folds/gather'
import { boards } from './folds/boards'
import { squares } from './folds/squares'
import { tear } from './glitches/tear'
import { colourSplit } from './glitches/colourSplit'
import { whiteNoise } from './glitches/whiteNoise'
import { lostSync } from './glitches/lostSync'
import { blocks } from './glitches/blocks'
import { lines } from './glitches/lines'
import { stutter } from './glitches/stutter'

/** Every transition, family by family, in the order it is shown. */
export const TRANSITIONS: readonly TransitionKind[] = [
  dissolve,
  bloomDissolve,
  grain,
  mist,
  inkwell,
  brightFirst,
  darkFirst,
  patches,
  dip,
  flash,
  blink,
  irisShut,
  emberDim,
  throughBlur,
  wipe,
  clock,
  twoHands,
  fan,
  radar,
  iris,
  oval,
  diamond,
  window,
  star,
  heart,
  cross,
  barnDoors,
  blinds,
  stairs,
  comb,
  checks,
  spiral,
  tide,
  sawtooth,
  rings,
  dots,
  honeycomb,
  bricks,
  rain,
  brush,
  shore,
  lattice,
  push,
  slideOver,
  slideAway,
  whip,
  partHalves,
  ladder,
  crossing,
  drop,
  trade,
  zoomThrough,
  stepBack,
  stepUp,
  dive,
  spin,
  whirl,
  tumble,
  rollIn,
  pop,
  cornerPin,
  softDissolve,
  glide,
  haze,
  overglow,
  lightLeak,
  beam,
  burn,
  lens,
  rippleWater,
  flip,
  box,
  pageTurn,
  pleats,
  tileFlip,
  shatter,
  gather,
  boards,
  squares,
  tear,
  colourSplit,
  whiteNoise,
  lostSync,
  blocks,
  lines,
  stutter,
]

const byId = new Map(TRANSITIONS.map((kind) => [kind.id, kind]))

/** The transition of a name; names that are not known dissolve. */
export function transitionById(id: string): TransitionKind {
  return byId.get(id) ?? dissolve
}

export { FAMILIES, type Family, type TransitionKind } from './define'
