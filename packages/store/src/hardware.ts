import { and, like, sql } from 'drizzle-orm'
import { z } from 'zod'
import { hardwareSchema, type HardwareId } from '@dusk/interchange'
import type { Database } from './database'
import { settings } from './schema'

/** How often a worker says what hardware it has, and how long silence means that it is gone. */
export const HARDWARE_SAID_MS = 20_000
const SILENCE_MS = 3 * HARDWARE_SAID_MS

const PREFIX = 'hardware:'
const rowSchema = z.object({ encoders: z.array(hardwareSchema), at: z.number() })
/** Milliseconds since 1970 by the database's clock: those of machines differ. */
const NOW = sql`(extract(epoch from clock_timestamp()) * 1000)`
const SAID_AT = sql`(${settings.value} ->> 'at')::numeric`

/** Writes down which encoders in hardware a worker has proved. @param worker its name among all */
export async function sayHardware(db: Database, worker: string, encoders: readonly HardwareId[]): Promise<void> {
  const value = sql`jsonb_build_object('encoders', ${JSON.stringify(encoders)}::jsonb, 'at', ${NOW})`
  await db
    .insert(settings)
    .values({ key: PREFIX + worker, value })
    .onConflictDoUpdate({ target: settings.key, set: { value } })
  await db.delete(settings).where(and(like(settings.key, `${PREFIX}%`), sql`${SAID_AT} < ${NOW} - ${SILENCE_MS}`))
}

/** Encoders in hardware that any worker has which is there just now. */
export async function provenHardware(db: Database): Promise<HardwareId[]> {
  const rows = await db
    .select()
    .from(settings)
    .where(and(like(settings.key, `${PREFIX}%`), sql`${SAID_AT} >= ${NOW} - ${SILENCE_MS}`))
  const found = rows.flatMap(({ value }) => rowSchema.safeParse(value).data?.encoders ?? [])
  return hardwareSchema.options.filter((id) => found.includes(id))
}
