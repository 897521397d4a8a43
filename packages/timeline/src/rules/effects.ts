import { defineRule } from './rule'

/** Most effects in one stack. */
export const MAX_EFFECTS = 40

/** Effects belong to something that is there, and a stack is not endless. */
export const effects = defineRule({
  name: 'effect',
  about: ['effects', 'clips', 'tracks', 'reels', 'assets'],
  check(view, touched, broken) {
    if (!touched.any('effects')) return
    const counts = new Map<string, number>()
    for (const effect of view.all('effects')) {
      const map = ({ clip: 'clips', track: 'tracks', reel: 'reels', asset: 'assets' } as const)[effect.owner]
      if (!view.get(map, effect.ownerId)) broken('What this effect belongs to is no longer there.', effect.id)
      counts.set(effect.ownerId, (counts.get(effect.ownerId) ?? 0) + 1)
    }
    for (const [id, n] of counts)
      if (n > MAX_EFFECTS) broken(`A stack holds at most ${MAX_EFFECTS} effects. Remove one first.`, id)
  },
})
