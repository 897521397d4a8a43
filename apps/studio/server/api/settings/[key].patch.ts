import { eq, sql } from 'drizzle-orm'
import { z } from 'zod'
import { settings } from '@dusk/store'
import { settingChangeSchema, withChange } from '../../../shared/settingChange'

const schema = z.object({ changes: z.array(settingChangeSchema).min(1).max(200) })

/** Changes single entries of a setting of the person's; the rest stays as it is, whoever wrote it. */
export default defineApi(async (event) => {
  const key = settingKey(event)
  const { changes } = await bodyOf(event, schema)
  return useServices().db.transaction(async (tx) => {
    // Two windows that change different entries at once both keep theirs.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${`setting ${key}`}))`)
    const [row] = await tx.select({ value: settings.value }).from(settings).where(eq(settings.key, key))
    const { initial } = settingKinds[key]
    const value = changes.reduce((held: unknown, change) => withChange(held, change), row?.value ?? initial)
    const held = heldTo(settingKinds[key].schema, value)
    await tx
      .insert(settings)
      .values({ key, value: held })
      .onConflictDoUpdate({ target: settings.key, set: { value: held } })
    return { value: held }
  })
})
