import { eq } from 'drizzle-orm'
import { chaptersOf, type PostLimits } from '@dusk/interchange'
import { renders } from '@dusk/store'
import { openDocument, reelLength, TICKS_PER_SECOND } from '@dusk/timeline'

/** What a finished film says of itself where it is posted, and what the place takes. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const film = await postableFilm(id)
  const [row] = await useServices().db.select().from(renders).where(eq(renders.id, id))
  const project = openDocument(row!.document)
  const { reelId, settings } = row!
  const { from, to } = settings.range ?? { from: 0, to: reelLength(project, reelId) }
  const chapters = chaptersOf(project, reelId, from, to).map((part) => ({
    at: part.from / TICKS_PER_SECOND,
    name: part.name,
  }))
  let [limits, message]: [PostLimits | null, string | null] = [null, null]
  try {
    limits = await boardLimits()
  } catch (error) {
    message = (error as Error).message
  }
  const words = { title: settings.title ?? film.name, description: settings.description ?? '', chapters }
  return { ...words, file: film.file, limits, message }
})
