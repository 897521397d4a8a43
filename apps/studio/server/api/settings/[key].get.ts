import { eq } from 'drizzle-orm'
import { settings } from '@dusk/store'

/** A setting of the person's; `null` where none was kept yet. */
export default defineApi(async (event) => {
  const key = settingKey(event)
  const [row] = await useServices().db.select({ value: settings.value }).from(settings).where(eq(settings.key, key))
  return { value: row?.value ?? null }
})
