import { z } from 'zod'
import { settings } from '@dusk/store'

/** Keeps a setting of the person's. */
export default defineApi(async (event) => {
  const key = settingKey(event)
  const { value } = await bodyOf(event, z.object({ value: settingKinds[key].schema }))
  await useServices()
    .db.insert(settings)
    .values({ key, value })
    .onConflictDoUpdate({ target: settings.key, set: { value } })
  return { value }
})
