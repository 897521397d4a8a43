import { bulge, mirror, wave } from './bend/bends'
import { blur, mosaic, motion, spinBlur, zoomBlur } from './blur/blurs'
import { balance } from './correction/balance'
import { hueTurn, oneHue } from './correction/hue'
import { levels } from './correction/levels'
import { threeTones } from './correction/threeTones'
import { tone } from './correction/tone'
import type { EffectKind } from './define'
import { clarity, sharpen } from './detail/sharpen'
import { grain } from './film/film'
import { split, tear } from './glitch/glitches'
import { glow, vignette, wash } from './light/light'
import { grade } from './looks/grade'
import { heat, inkOnly, negative, oneColour, posterise, solarise, twoTone } from './stylise/colours'

export * from './define'
export { LutStore, lutEntries } from './colour/lut'

/** Every picture effect, in the order the gallery shows them. */
export const PICTURE_EFFECTS: readonly EffectKind[] = [
  tone,
  balance,
  levels,
  threeTones,
  oneHue,
  hueTurn,
  grade,
  blur,
  motion,
  zoomBlur,
  spinBlur,
  mosaic,
  sharpen,
  clarity,
  glow,
  vignette,
  wash,
  grain,
  posterise,
  twoTone,
  oneColour,
  heat,
  inkOnly,
  solarise,
  negative,
  wave,
  bulge,
  mirror,
  split,
  tear,
]

const byId = new Map(PICTURE_EFFECTS.map((kind) => [kind.id, kind]))

/** The effect of a name; `undefined` for one that a newer version made. */
export const pictureEffect = (id: string): EffectKind | undefined => byId.get(id)
