import { exists } from '@dusk/media'

/** A font file that a title names. */
export default defineApi(async (event) => {
  const path = useServices().storage.given(hashOf(event))
  if (!(await exists(path))) throw notFound('font file')
  return sendFile(event, path, 'font/ttf', { lasting: true })
})
