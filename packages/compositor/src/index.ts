export { bandHelp } from './bands/helper'
export * from './engine'
export * from './heap'
export * from './colour'
export * from './picture'
export * from './layers/resampleTable'
export * from './layers/blur'
export * from './supply/frameSupply'
export * from './supply/pictureStore'
export * from './compositor'
export { FilmPlanes } from './filmPlanes'
export { withoutHidden } from './hiddenLayers'
export * from './scopes'
export * from './transitions/index'
export {
  EFFECT_FAMILIES,
  PICTURE_EFFECTS,
  pictureEffect,
  stackColour,
  LutStore,
  lutEntries,
  HUE_RANGES,
  hueRangeAt,
  hueOf,
  type ColourEffect,
  type EffectFamily,
  type EffectKind,
  type EffectPreset,
} from './effects/index'
export * from './effects/colour/cube'
export { PROFILES, type Profile } from './effects/colour/profiles'
export { autoLevels, autoWhite, matchTo, oklab, unlike, whiteFrom, type FoundEffect } from './effects/colour/automatic'
export * from './drawing/vectorRenderer'
export * from './drawing/fonts'
export * from './drawing/hanFonts'
export * from './drawing/ownFonts'
export { CanvasKitRenderer } from './drawing/canvasKitRenderer'
export * from './titles/moves'
export type { MoveKind } from './titles/define'
export * from './titles/units'
export * from './generators/index'
export { settingsFor } from './generators/define'
export * from './titles/presets'
export { EXTENTS } from './titles/presets/extents'
