import { defineFeature } from '~/features/registry/feature'
import CellPan from './CellPan.vue'
import LayoutPicker from './LayoutPicker.vue'
import PictureMoves from './PictureMoves.vue'

/** The picture, and where clips lie on it. */
export const viewer = defineFeature({
  id: 'viewer',
  clipSections: [
    { order: 10, component: CellPan, props: ({ pictures: [clip] }) => (clip?.kind === 'media' ? { clip } : null) },
    {
      order: 20,
      component: PictureMoves,
      props: ({ pictures }) => (pictures.length === 1 && pictures[0]!.kind === 'media' ? { clip: pictures[0] } : null),
    },
    {
      order: 30,
      component: LayoutPicker,
      props: ({ pictures }) => (pictures.length > 0 && pictures.length < 10 ? { clips: pictures } : null),
    },
  ],
})
