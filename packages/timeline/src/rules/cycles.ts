import { defineRule, type RuleView } from './rule'

/** No reel plays inside itself, at any depth, and no folder lies inside itself. */
export const cycles = defineRule({
  name: 'cycle',
  about: ['clips', 'tracks', 'folders'],
  check(view, touched, broken) {
    if (nestingTouched(view, touched)) {
      const inside = nesting(view)
      for (const reelId of inside.keys())
        if (reaches(inside, reelId, reelId)) broken('A reel can’t play inside itself.', reelId)
    }
    for (const folder of touched.of(view, 'folders')) {
      const seen = new Set<string>()
      for (let id: string | null | undefined = folder.id; id; id = view.get('folders', id)?.parentId) {
        if (seen.has(id)) {
          broken('A folder can’t lie inside itself.', folder.id)
          break
        }
        seen.add(id)
      }
    }
  },
})

function nestingTouched(view: RuleView, touched: Parameters<typeof cycles.check>[1]): boolean {
  if (touched.any('tracks')) return true
  for (const clip of touched.of(view, 'clips')) if (clip.kind === 'reel') return true
  return false
}

/** Which reels each reel plays directly. */
function nesting(view: RuleView): Map<string, Set<string>> {
  const inside = new Map<string, Set<string>>()
  for (const clip of view.all('clips')) {
    if (clip.kind !== 'reel') continue
    const parent = view.get('tracks', clip.trackId)?.reelId
    if (!parent) continue
    const list = inside.get(parent)
    if (list) list.add(clip.nestedId)
    else inside.set(parent, new Set([clip.nestedId]))
  }
  return inside
}

function reaches(inside: ReadonlyMap<string, ReadonlySet<string>>, from: string, to: string): boolean {
  const seen = new Set<string>()
  const look = [...(inside.get(from) ?? [])]
  for (let id = look.pop(); id !== undefined; id = look.pop()) {
    if (id === to) return true
    if (seen.has(id)) continue
    seen.add(id)
    look.push(...(inside.get(id) ?? []))
  }
  return false
}
