import { exists } from '@dusk/media'

/** A picture out of the finished file. */
export default defineApi(async (event) => {
  const path = useServices().storage.path('renders', `${idOf(event)}.jpg`)
  if (!(await exists(path))) throw notFound('picture of that render')
  return sendFile(event, path, 'image/jpeg', { lasting: true })
})
