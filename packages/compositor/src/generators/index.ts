import type { GeneratorKind } from './define'
import { plain } from './grounds/plain'
import { gradient } from './grounds/gradient'
import { halo } from './grounds/halo'
import { slats } from './grounds/slats'
import { spots } from './grounds/spots'
import { tiles } from './grounds/tiles'
import { swell } from './grounds/swell'
import { rays } from './grounds/rays'
import { eveningSky } from './grounds/eveningSky'
import { countdown } from './grounds/countdown'
import { box } from './shapes/box'
import { disc } from './shapes/disc'
import { hoop } from './shapes/hoop'
import { wedge } from './shapes/wedge'
import { lozenge } from './shapes/lozenge'
import { cell } from './shapes/cell'
import { star } from './shapes/star'
import { burst } from './shapes/burst'
import { heartShape } from './shapes/heartShape'
import { drop } from './shapes/drop'
import { boat } from './shapes/boat'
import { tick } from './shapes/tick'
import { cross } from './shapes/cross'
import { stroke } from './shapes/stroke'
import { arrow } from './shapes/arrow'
import { thinArrow } from './shapes/thinArrow'
import { bentArrow } from './shapes/bentArrow'
import { twoWayArrow } from './shapes/twoWayArrow'
import { bracket } from './shapes/bracket'
import { underlineStroke } from './shapes/underlineStroke'
import { bubble } from './callouts/bubble'
import { note } from './callouts/note'
import { leader } from './callouts/leader'
import { ringAround } from './callouts/ringAround'
import { spotlight } from './callouts/spotlight'
import { sticker } from './stickers/sticker'
import { bubbles } from './particles/bubbles'
import { snow } from './particles/snow'
import { rain } from './particles/rain'
import { sparks } from './particles/sparks'
import { fireworks } from './particles/fireworks'
import { confetti } from './particles/confetti'
import { motes } from './particles/motes'
import { embers } from './particles/embers'
import { petals } from './particles/petals'
import { lanterns } from './particles/lanterns'

/** Every generated picture, family by family, in the order it is shown. */
export const GENERATORS: readonly GeneratorKind[] = [
  plain,
  gradient,
  halo,
  slats,
  spots,
  tiles,
  swell,
  rays,
  eveningSky,
  countdown,
  box,
  disc,
  hoop,
  wedge,
  lozenge,
  cell,
  star,
  burst,
  heartShape,
  drop,
  boat,
  tick,
  cross,
  stroke,
  arrow,
  thinArrow,
  bentArrow,
  twoWayArrow,
  bracket,
  underlineStroke,
  bubble,
  note,
  leader,
  ringAround,
  spotlight,
  sticker,
  bubbles,
  snow,
  rain,
  sparks,
  fireworks,
  confetti,
  motes,
  embers,
  petals,
  lanterns,
]

const byId = new Map(GENERATORS.map((kind) => [kind.id, kind]))

/** The generator of a name; names that are not known give a plain ground. */
export function generatorById(id: string): GeneratorKind {
  return byId.get(id) ?? plain
}

export {
  GENERATOR_FAMILIES,
  type GeneratedSprite,
  type GeneratorFamily,
  type GeneratorKind,
  type GeneratorPreset,
} from './define'
