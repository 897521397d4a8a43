import { z } from 'zod'
import { createProject, formatSchema, nameSchema } from '@dusk/timeline'
import { announce } from '@dusk/store'

const schema = z.object({ name: nameSchema, format: formatSchema })

/** Makes a project with one empty reel. */
export default defineApi(async (event) => {
  const { name, format } = await bodyOf(event, schema)
  const { log, sql } = useServices()
  const project = createProject(name, format)
  await log.create(project)
  await announce(sql, { kind: 'projects' })
  setResponseStatus(event, 201)
  return { id: project.id }
})
