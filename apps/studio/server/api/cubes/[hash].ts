import { exists } from '@dusk/media'

/** A .cube file that an effect names. */
export default defineApi(async (event) => {
  const path = useServices().storage.given(hashOf(event))
  if (!(await exists(path))) throw notFound('.cube file')
  return sendFile(event, path, 'text/plain; charset=utf-8', { lasting: true })
})
