import { actionsOf, defineFeature } from '~/features/registry/feature'
import { usePlayer } from './usePlayhead'

/** Playing, and going from place to place. */
export const player = defineFeature({
  id: 'player',
  useActions() {
    const player = usePlayer()
    return actionsOf('Play', [
      ['play.toggle', 'Play or pause', () => player.toggle()],
      ['play.back', 'Play backwards; again: faster', () => player.shuttle(-1)],
      ['play.pause', 'Pause', () => player.pause()],
      ['play.on', 'Play; again: faster', () => player.shuttle(1)],
      ['play.frameBack', 'One frame back', () => player.step(-1)],
      ['play.frameOn', 'One frame on', () => player.step(1)],
      ['play.tenBack', 'Ten frames back', () => player.step(-10)],
      ['play.tenOn', 'Ten frames on', () => player.step(10)],
      ['play.start', 'To the start', () => player.seek(0)],
      ['play.end', 'To the end', () => player.seek(Infinity)],
    ])
  },
})
