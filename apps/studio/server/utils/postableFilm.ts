import type { PostFile } from '@dusk/interchange'

/** A finished render as a place wants to know it. @throws {Problem} 404 when it is not there, 422 when it is no film */
export async function postableFilm(id: string): Promise<{ name: string; file: PostFile }> {
  const { name, delivery, report } = await finishedRender(id)
  if (delivery.kind !== 'film' || !report)
    throw new Problem(422, 'No film', 'Only films are posted: this render is sound alone, or pictures.')
  const { bytes, seconds, width, height } = report
  const file = { name: `${name}.${delivery.ending}`, kind: delivery.type, bytes, seconds, width, height }
  return { name, file }
}
