import { device, drive } from './character/drive'
import type { SoundEffectKind } from './define'
import { compressor } from './level/compressor'
import { deEsser } from './level/deEsser'
import { gain } from './level/gain'
import { gate } from './level/gate'
import { limiter } from './level/limiter'
import { chorus, flutter, tremolo } from './motion/modulated'
import { hum } from './repair/hum'
import { noise } from './repair/noise'
import { voiceOnly } from './repair/voiceOnly'
import { echo } from './space/echo'
import { reverb } from './space/reverb'
import { width } from './space/width'
import { equaliser } from './tone/equaliser'
import { highPass, lowPass } from './tone/passes'
import { pitch } from './tone/pitch'

export * from './define'
export { compressed } from './level/dynamics'
export { EQUALISER_BANDS } from './tone/equaliser'
export { noisePrint } from './repair/noise'
export { setVoiceModelUrl } from './repair/voiceModel'

/** Every sound effect, in the order the gallery shows them. */
export const SOUND_EFFECTS: readonly SoundEffectKind[] = [
  equaliser,
  highPass,
  lowPass,
  pitch,
  compressor,
  limiter,
  gate,
  deEsser,
  gain,
  noise,
  voiceOnly,
  hum,
  reverb,
  echo,
  width,
  chorus,
  flutter,
  tremolo,
  drive,
  device,
]

const byId = new Map(SOUND_EFFECTS.map((kind) => [kind.id, kind]))

/** The effect of a name; `undefined` for one that a newer version made. */
export const soundEffect = (id: string): SoundEffectKind | undefined => byId.get(id)
