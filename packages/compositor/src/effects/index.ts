import { corners } from './bend/corners'
import { drops } from './bend/drops'
import { kaleidoscope } from './bend/kaleidoscope'
import { lens } from './bend/lens'
import { ripple } from './bend/ripple'
import { shake } from './bend/shake'
import { swirl } from './bend/swirl'
import { tiles } from './bend/tiles'
import { frosted } from './blur/frosted'
import { roundFocus } from './blur/roundFocus'
import { softSkin } from './blur/softSkin'
import { tiltShift } from './blur/tiltShift'
import { calmNoise } from './detail/calmNoise'
import { steadyNoise } from './detail/steadyNoise'
import { haze } from './detail/haze'
import { dust } from './film/dust'
import { fadedPrint } from './film/fadedPrint'
import { filmGate } from './film/gate'
import { oldTape } from './film/oldTape'
import { projector } from './film/projector'
import { scratches } from './film/scratches'
import { blocks } from './glitch/blocks'
import { dataRot } from './glitch/dataRot'
import { lostSync } from './glitch/lostSync'
import { scanLines } from './glitch/scanLines'
import { cutShape, keyColour, keyLight } from './key/keyColour'
import { cutAway } from './key/cutAway'
import { bloom } from './light/bloom'
import { flare } from './light/flare'
import { flicker } from './light/flicker'
import { gradientTint } from './light/gradientTint'
import { leaks } from './light/leaks'
import { rays } from './light/rays'
import { crystal } from './stylise/crystal'
import { emboss } from './stylise/emboss'
import { halftone } from './stylise/halftone'
import { edges, ink, sketch } from './stylise/lines'
import { oil } from './stylise/oil'
import { pixelQuay } from './stylise/pixelQuay'
import { bulge, mirror, wave } from './bend/bends'
import { blur, mosaic, motion, spinBlur, zoomBlur } from './blur/blurs'
import { balance } from './correction/balance'
import { hueTurn, oneHue } from './correction/hue'
import { levels } from './correction/levels'
import { wheels } from './correction/wheels'
import { curves } from './correction/curves'
import { hues } from './correction/hues'
import { lutFile } from './correction/lutFile'
import { tone } from './correction/tone'
import type { EffectKind } from './define'
import { clarity, sharpen } from './detail/sharpen'
import { grain } from './film/film'
import { split, tear } from './glitch/glitches'
import { glow, vignette, wash } from './light/light'
import { grade } from './looks/grade'
import { heat, inkOnly, negative, oneColour, posterise, solarise, twoTone } from './stylise/colours'

export * from './define'
export { stackColour } from './apply'
export { LutStore, lutEntries } from './colour/lut'
export { HUE_RANGES, hueRangeAt } from './correction/hues'
export { hueOf } from './correction/hue'

/** Every picture effect, in the order the gallery shows them. */
export const PICTURE_EFFECTS: readonly EffectKind[] = [
  tone,
  balance,
  levels,
  curves,
  wheels,
  hues,
  oneHue,
  hueTurn,
  grade,
  lutFile,
  blur,
  motion,
  zoomBlur,
  spinBlur,
  mosaic,
  tiltShift,
  roundFocus,
  softSkin,
  frosted,
  sharpen,
  clarity,
  haze,
  calmNoise,
  steadyNoise,
  glow,
  vignette,
  wash,
  gradientTint,
  bloom,
  rays,
  flare,
  leaks,
  flicker,
  grain,
  dust,
  scratches,
  filmGate,
  projector,
  oldTape,
  fadedPrint,
  posterise,
  twoTone,
  oneColour,
  heat,
  inkOnly,
  solarise,
  negative,
  sketch,
  ink,
  edges,
  emboss,
  halftone,
  oil,
  pixelQuay,
  crystal,
  wave,
  bulge,
  mirror,
  ripple,
  swirl,
  lens,
  kaleidoscope,
  tiles,
  shake,
  corners,
  drops,
  split,
  tear,
  blocks,
  scanLines,
  lostSync,
  dataRot,
  keyColour,
  keyLight,
  cutShape,
  cutAway,
]

const byId = new Map(PICTURE_EFFECTS.map((kind) => [kind.id, kind]))

/** The effect of a name; `undefined` for one that a newer version made. */
export const pictureEffect = (id: string): EffectKind | undefined => byId.get(id)
