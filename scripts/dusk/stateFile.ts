import { existsSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { z } from 'zod'

const partSchema = z.object({ pid: z.number().nullable(), restarts: z.number() })

/** How what runs with a data folder stands, written down by `./dusk start` for `./dusk status`. */
const stateSchema = z.object({
  /** How our own programs call the studio. */
  reach: z.object({ origin: z.string(), certificate: z.string().nullish(), name: z.string().optional() }),
  /** Where people find it. */
  shown: z.string(),
  /** Milliseconds since 1970. */
  since: z.number(),
  studio: partSchema,
  worker: partSchema,
  /** The practice board, with its port; `null` where films are posted elsewhere. */
  board: partSchema.extend({ port: z.number() }).nullish(),
  database: z.object({ restarts: z.number() }),
  /** Where media are, unless in the data folder. */
  media: z.string().nullish(),
})
export type RunState = z.infer<typeof stateSchema>

const pathOf = (data: string) => join(data, 'dusk.json')

export function writeState(data: string, state: RunState): void {
  const path = pathOf(data)
  writeFileSync(`${path}.part`, JSON.stringify(state))
  renameSync(`${path}.part`, path)
}

/** What was written down last; `null` when there is nothing, or nothing that can be read. */
export function readState(data: string): RunState | null {
  const path = pathOf(data)
  if (!existsSync(path)) return null
  try {
    return stateSchema.parse(JSON.parse(readFileSync(path, 'utf8')))
  } catch {
    return null
  }
}

export const removeState = (data: string) => rmSync(pathOf(data), { force: true })
