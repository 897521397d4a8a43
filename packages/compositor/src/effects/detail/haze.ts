import { definePicture, num, percent, preset, swing } from '../define'

export const haze = definePicture({
  id: 'haze',
  name: 'Haze',
  family: 'detail',
  hint: 'Takes haze out of the distance, or below zero lays some over it.',
  params: [swing('amount', 'Amount', 40), percent('evenness', 'Over how much', 45)],
  presets: [preset('clearMorning', 'Clear morning', { amount: 60 }), preset('seaMist', 'Sea mist', { amount: -45 })],
  draw(stage, settings) {
    const { engine, picture, bounds } = stage
    const amount = num(settings, 'amount') / 100
    const veil = stage.copy()
    const sigma = (Math.min(bounds.width, bounds.height) * (4 + num(settings, 'evenness'))) / 400
    stage.blur(veil, sigma, sigma)
    const address = picture.address()
    if (amount >= 0) engine.kernels.unsharp(address, veil.address(), address, stage.pixels, amount * 0.9)
    else {
      // Mist is the mean of what is there, a little brighter.
      engine.kernels.towards(veil.address(), stage.pixels, 214, 218, 226, 0.55)
      engine.kernels.dissolve(address, veil.address(), address, stage.pixels, Math.round(-amount * 24_000))
    }
    veil.release()
  },
})
