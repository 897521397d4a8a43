import type { ProjectUse } from '@dusk/store'

/** What takes how much room, as the server measured it; in bytes. */
export interface DiskUse {
  /** Room that is left on the disk, and all of it. */
  free: number
  total: number
  parts: Record<PartKind, number>
  projects: ProjectUse[]
}

export type PartKind = 'originals' | 'previews' | 'chunks' | 'renders' | 'unfinished' | 'database'

/** A kind of things on the disk, and how it is told. */
export interface Part {
  kind: PartKind
  name: string
  words: string
  /** Class of its stretch in the bar. */
  colour: string
}

export const PARTS: readonly Part[] = [
  {
    kind: 'originals',
    name: 'Footage',
    words: 'The files that were added, each once, however many projects use it.',
    colour: 'bg-dusk',
  },
  {
    kind: 'previews',
    name: 'Previews',
    words: 'What is made of footage: previews, film strips, sounds, frames between. They stay as long as the footage.',
    colour: 'bg-lamp',
  },
  {
    kind: 'renders',
    name: 'Finished renders',
    words: 'Each can be removed among the renders.',
    colour: 'bg-moss',
  },
  {
    kind: 'chunks',
    name: 'Parts of renders',
    words: 'What a render after a small change need not make again. The oldest go by themselves.',
    colour: 'bg-ember',
  },
  {
    kind: 'unfinished',
    name: 'Work under way',
    words: 'Uploads and work files. What nobody goes on with is removed by itself.',
    colour: 'bg-rose',
  },
  {
    kind: 'database',
    name: 'Edits',
    words: 'Every edit of every project. Long histories are shortened by themselves.',
    colour: 'bg-muted',
  },
]

/** Stretches of a bar for parts of a whole, in percent; what is too small to see gets a sliver, nothing gets none. */
export function stretches(parts: readonly number[], total: number): number[] {
  const SLIVER = 0.6
  return parts.map((bytes) => (bytes === 0 || total === 0 ? 0 : Math.max(SLIVER, (bytes / total) * 100)))
}
