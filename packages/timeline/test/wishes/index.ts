import fc from 'fast-check'
import type { CommandInput, Project } from '../../src/index'
import { CLIP_WISHES } from './clips'
import { LOOK_WISHES } from './looks'
import { PROJECT_WISHES } from './project'
import { seen, type Makers, type Type, type Wish } from './sight'

export { freshId } from './sight'

/** Every kind of command that there is: a new one is wished for, or this is no longer compiled. */
const WISHES: Makers = {
  ...PROJECT_WISHES,
  ...CLIP_WISHES,
  ...LOOK_WISHES,
  // What does not go together is refused as a whole.
  batch: (sight) => {
    const { w } = sight
    const makers = [CLIP_WISHES.trim, CLIP_WISHES.place, CLIP_WISHES.move, CLIP_WISHES.split, PROJECT_WISHES.addMarkers]
    const commands = [w.pick, w.other, w.at].flatMap((n) => makers[n % makers.length]!(sight) ?? [])
    return commands.length > 0 ? { type: 'batch', label: 'Did several things', commands } : null
  },
}

/** What is done often at a desk is wished for often. */
const OFTEN: Partial<Record<Wish['type'], number>> = {
  place: 3,
  move: 2,
  trim: 3,
  split: 2,
  addTransitions: 3,
  setSpeed: 2,
  undo: 3,
}
const TYPES = [...(Object.keys(WISHES) as Type[]), 'undo' as const, 'redo' as const]

/** Wishes of every kind of command that there is, of undo and of redo. */
export const wish: fc.Arbitrary<Wish> = fc.record({
  type: fc.constantFrom(...TYPES.flatMap((type) => Array<Wish['type']>(OFTEN[type] ?? 1).fill(type))),
  pick: fc.nat(1000),
  other: fc.nat(1000),
  at: fc.integer({ min: 0, max: 900 }),
  length: fc.integer({ min: 1, max: 400 }),
  mode: fc.constantFrom('free', 'insert', 'push', 'over'),
  flag: fc.boolean(),
})

/** The command that a wish comes to in a document; null for undo and redo, and where there is nothing to do. */
export function toCommand(project: Project, reelId: string, w: Wish): CommandInput | null {
  if (w.type === 'undo' || w.type === 'redo') return null
  return WISHES[w.type](seen(project, reelId, w))
}
