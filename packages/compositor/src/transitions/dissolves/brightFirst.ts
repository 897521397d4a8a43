import { defineTransition, softness, edgeParams } from '../define'
import type { WipeLook } from '../stage'

/** Where the old picture is bright it changes first. */
export const brightFirst = defineTransition({
  id: 'brightFirst',
  name: 'Bright first',
  family: 'dissolves',
  hint: 'Where the old picture is bright it changes first.',
  params: [softness(35), ...edgeParams()],
  draw(stage, t, settings) {
    stage.wipeByLight(t, false, settings as WipeLook)
  },
})
