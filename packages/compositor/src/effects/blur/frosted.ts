import { definePicture, num, percent, pixels, preset } from '../define'

export const frosted = definePicture({
  id: 'frosted',
  name: 'Frosted glass',
  family: 'blur',
  hint: 'Seen through a rough pane.',
  params: [pixels('roughness', 'Roughness', 14, 80), percent('softness', 'Softness', 35)],
  presets: [preset('showerDoor', 'Wet pane', { roughness: 26, softness: 60 })],
  draw(stage, settings) {
    const { engine, picture } = stage
    const reach = Math.max(1, Math.round(num(settings, 'roughness') * stage.scale))
    const copy = stage.copy()
    engine.kernels.scatter(
      copy.address(),
      picture.address(),
      picture.width,
      picture.height,
      977,
      reach,
      0,
      picture.height,
    )
    copy.release()
    const sigma = (reach * num(settings, 'softness')) / 300
    if (sigma > 0.2) stage.blur(picture, sigma, sigma)
  },
})
