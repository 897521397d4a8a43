import { eq } from 'drizzle-orm'
import { deliveryOf } from '@dusk/interchange'
import { renders } from '@dusk/store'

/** A finished render and the path of its file. @throws {Problem} 404 when it is not there, or not done */
export async function finishedRender(id: string) {
  const { db, storage } = useServices()
  const [row] = await db
    .select({ name: renders.name, state: renders.state, settings: renders.settings, report: renders.report })
    .from(renders)
    .where(eq(renders.id, id))
  if (row?.state !== 'ready') throw notFound('finished render')
  const delivery = deliveryOf(row.settings.format)
  const path = storage.path('renders', `${id}.${delivery.ending}`)
  await storage.fetch(path)
  return { ...row, delivery, path }
}
