import { definePicture, num, percent, pixels, preset, type EffectSettings } from '../define'
import type { EffectStage } from '../stage'

/** Away from a blurred copy of itself. */
function unsharp(stage: EffectStage, settings: EffectSettings): void {
  stage.sharpen(Math.max(0.4, num(settings, 'radius') * stage.scale), num(settings, 'amount') / 100)
}

export const sharpen = definePicture({
  id: 'sharpen',
  name: 'Sharpen',
  family: 'detail',
  hint: 'Fine edges stand out more.',
  params: [percent('amount', 'Amount', 80, 400), pixels('radius', 'Radius', 1.5, 10)],
  presets: [preset('fine', 'Fine', { amount: 60, radius: 1 }), preset('crisp', 'Crisp', { amount: 160, radius: 2 })],
  draw: unsharp,
})

export const clarity = definePicture({
  id: 'clarity',
  name: 'Clarity',
  family: 'detail',
  hint: 'Shapes stand out from each other; below haze there is more.',
  params: [percent('amount', 'Amount', 45, 200), pixels('radius', 'Radius', 60, 200)],
  presets: [preset('afterRain', 'After rain', { amount: 70 })],
  draw: unsharp,
})
