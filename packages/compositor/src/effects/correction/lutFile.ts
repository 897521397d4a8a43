import { cubeAt } from '../colour/cube'
import { PROFILES, type Profile } from '../colour/profiles'
import { choice, defineColour } from '../define'

/** What a picture is written in before a table is looked up in. */
const INPUTS = {
  display: 'As shown',
  ...Object.fromEntries(Object.entries(PROFILES).map(([id, profile]) => [id, profile.name])),
}

export const lutFile = defineColour({
  id: 'lutFile',
  name: 'LUT file',
  family: 'looks',
  hint: 'A table of colours from a .cube file.',
  params: [
    { kind: 'file', key: 'file', label: 'File', ending: '.cube', default: '', fixed: true },
    choice('input', 'It expects', INPUTS),
  ],
  colour(settings, files) {
    const cube = settings.file ? files(String(settings.file)) : null
    const profile: Profile | undefined = PROFILES[settings.input as keyof typeof PROFILES]
    if (!cube) return () => {}
    return (rgb) => {
      if (profile) for (let c = 0; c < 3; c++) rgb[c] = profile.encode(rgb[c]!)
      cubeAt(cube, rgb)
    }
  },
})
