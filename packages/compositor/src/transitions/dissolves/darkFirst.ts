import { defineTransition, softness, edgeParams } from '../define'
import type { WipeLook } from '../stage'

/** The new picture rises out of the shadows of the old. */
export const darkFirst = defineTransition({
  id: 'darkFirst',
  name: 'Dark first',
  family: 'dissolves',
  hint: 'The new picture rises out of the shadows of the old.',
  params: [softness(35), ...edgeParams()],
  draw(stage, t, settings) {
    stage.wipeByLight(t, true, settings as WipeLook)
  },
})
