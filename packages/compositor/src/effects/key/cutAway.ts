import { definePicture } from '../define'

export const cutAway = definePicture({
  id: 'cutAway',
  name: 'Mask',
  family: 'key',
  hint: 'Leaves what its mask covers. The mask is drawn on the picture.',
  outside: true,
  draw({ engine, picture, pixels }) {
    engine.kernels.fill(picture.address(), pixels, 0)
  },
})
