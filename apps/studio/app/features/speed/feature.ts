import { actionsOf, defineFeature } from '~/features/registry/feature'
import ClipSpeed from './ClipSpeed.vue'
import { useSpeedActions } from './useSpeedActions'

/** How fast clips play. */
export const speed = defineFeature({
  id: 'speed',
  clipSections: [
    {
      order: 5,
      component: ClipSpeed,
      props: ({ clips }) => {
        const timed = clips.filter(({ kind, map }) => (kind === 'media' || kind === 'reel') && map.kind !== 'freeze')
        return timed.length > 0 ? { clips: timed } : null
      },
    },
  ],
  useActions() {
    const act = useSpeedActions()
    return actionsOf('Sound and speed', [
      ['speed.half', 'Half as fast', () => act.multiply(0.5)],
      ['speed.double', 'Twice as fast', () => act.multiply(2)],
      ['speed.own', 'At its own speed', () => void act.set({ speed: 1 })],
      ['speed.reverse', 'Backwards, or forwards again', () => void act.set({ reverse: true })],
      ['speed.fill', 'Fill the gap by changing the speed', act.fitGap],
    ])
  },
  useMenu() {
    const act = useSpeedActions()
    return ({ clip }) => {
      if (!clip || (clip.kind !== 'media' && clip.kind !== 'reel') || clip.map.kind === 'freeze') return []
      return [
        {
          order: 25,
          items: [
            { label: 'Backwards', action: 'speed.reverse', run: () => void act.set({ reverse: true }) },
            { label: 'Half as fast', action: 'speed.half', run: () => act.multiply(0.5) },
            { label: 'Twice as fast', action: 'speed.double', run: () => act.multiply(2) },
            { label: 'Fill the gap', action: 'speed.fill', run: act.fitGap },
          ],
        },
      ]
    }
  },
})
