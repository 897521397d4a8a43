import { clipsConcerned, defineRule } from './rule'

/** Linked clips lie in one reel: sync means nothing across reels. */
export const links = defineRule({
  name: 'link',
  about: ['clips', 'tracks'],
  check(view, touched, broken) {
    const wanted = new Set<string>()
    for (const clip of clipsConcerned(view, touched)) if (clip.link) wanted.add(clip.link)
    if (wanted.size === 0) return
    const reels = new Map<string, string>()
    for (const clip of view.all('clips')) {
      if (!clip.link || !wanted.has(clip.link)) continue
      const reelId = view.get('tracks', clip.trackId)?.reelId
      if (!reelId) continue
      const other = reels.get(clip.link)
      if (other && other !== reelId) broken('Clips of different reels can’t be linked.', clip.id)
      reels.set(clip.link, reelId)
    }
  },
})
