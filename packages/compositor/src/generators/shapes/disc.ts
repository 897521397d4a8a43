import { defineShape } from '../define'

/** A circle or an oval. */
export const disc = defineShape({
  id: 'disc',
  name: 'Disc',
  hint: 'A circle or an oval.',
  path: (w, h) => `M${-w / 2} 0A${w / 2} ${h / 2} 0 1 1 ${w / 2} 0A${w / 2} ${h / 2} 0 1 1 ${-w / 2} 0Z`,
})
