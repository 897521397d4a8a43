import { effects } from './effects/feature'
import { history } from './history/feature'
import { keyframes } from './keyframes/feature'
import { library } from './library/feature'
import { markers } from './markers/feature'
import { player } from './player/feature'
import type { Feature } from './registry/feature'
import { scopes } from './scopes/feature'
import { shortcuts } from './shortcuts/feature'
import { sound } from './sound/feature'
import { source } from './source/feature'
import { speed } from './speed/feature'
import { stock } from './stock/feature'
import { storyboard } from './storyboard/feature'
import { timeline } from './timeline/feature'
import { titles } from './titles/feature'
import { transitions } from './transitions/feature'
import { viewer } from './viewer/feature'
import { voiceover } from './voiceover/feature'
import { desk } from './desk/feature'

/** Every feature of the desk. A new one is a folder and a line here. */
export const ALL_FEATURES: readonly Feature[] = [
  player,
  source,
  timeline,
  library,
  stock,
  titles,
  transitions,
  effects,
  scopes,
  sound,
  speed,
  voiceover,
  viewer,
  markers,
  keyframes,
  storyboard,
  shortcuts,
  history,
  desk,
]
