import { z } from 'zod'
import { looseParamsSchema } from '../params/spec'
import { titleStyleSchema } from '../params/titleParams'
import { ticksSchema } from './values'

/** Most letters a title holds. */
export const MAX_TITLE = 10_000

/** Letters of a title with a style of their own, half-open, counted in UTF-16 units as the browser does. */
export const runSchema = z.object({
  from: z.int().min(0).max(MAX_TITLE),
  to: z.int().min(1).max(MAX_TITLE),
  style: titleStyleSchema,
})

/** How a title comes, goes or moves while it is shown. */
export const titleMoveSchema = z.object({
  /** Name in the list of moves. */
  move: z.string().regex(/^[a-z][A-Za-z0-9]{0,39}$/),
  /** How long it takes, in ticks; for a move while shown, how long one turn takes. */
  length: ticksSchema,
  /** What moves by itself. */
  unit: z.enum(['whole', 'line', 'word', 'letter']),
  order: z.enum(['forward', 'backward', 'outward', 'inward', 'random']),
  /** How much the moves of neighbours overlap: 0 one after the other, 100 all at once. */
  overlap: z.number().min(0).max(100),
  settings: looseParamsSchema,
})

/** Words on the picture: what they say, how they look, how they move. */
export const titleSchema = z.object({
  text: z.string().max(MAX_TITLE),
  style: titleStyleSchema,
  runs: z.array(runSchema).max(1000),
  in: titleMoveSchema.nullable(),
  out: titleMoveSchema.nullable(),
  during: titleMoveSchema.nullable(),
})

export type TitleRun = z.infer<typeof runSchema>
export type TitleMove = z.infer<typeof titleMoveSchema>
export type Title = z.infer<typeof titleSchema>
