import { z } from 'zod'
import { looseParamsSchema } from '../params/spec'
import { idSchema, ticksSchema } from './values'

/**
 * A change from one clip to the next, or the coming or going of one clip by itself. It belongs to a track and draws on
 * footage hidden beyond the trims: clips are never moved for it.
 */
export const transitionSchema = z.object({
  id: idSchema,
  trackId: idSchema,
  /** The clip that goes; `null` where one comes from nothing. At least one of the two is named. */
  leftId: idSchema.nullable(),
  /** The clip that comes; `null` where one goes to nothing. */
  rightId: idSchema.nullable(),
  /** How long before the cut it begins and after it ends, in ticks on the track's grid. */
  before: ticksSchema,
  after: ticksSchema,
  /** Name in the list of transitions; for sound, the shape of the crossfade. */
  kind: z.string().regex(/^[a-z][A-Za-z0-9]{0,39}$/, 'expected the name of a transition'),
  settings: looseParamsSchema,
  /** What happens where a source has too little hidden footage: the transition is shortened, or the edge frame held. */
  missing: z.enum(['shorten', 'hold']),
})

export type Transition = z.infer<typeof transitionSchema>

/** Shapes of a crossfade of sound. */
export const SOUND_FADES = ['equalPower', 'linear', 'slow', 'fast'] as const
export type SoundFade = (typeof SOUND_FADES)[number]

/** The cut of a transition in ticks: where the clip that comes begins, or the one that goes ends. */
export function cutOf(
  transition: Pick<Transition, 'leftId' | 'rightId'>,
  clip: (id: string) => { start: number; length: number } | undefined,
): number | null {
  const right = transition.rightId ? clip(transition.rightId) : undefined
  if (right) return right.start
  const left = transition.leftId ? clip(transition.leftId) : undefined
  return left ? left.start + left.length : null
}
