/** A picture out of the finished file. */
export default defineApi(async (event) => {
  const { storage } = useServices()
  const path = storage.path('renders', `${idOf(event)}.jpg`)
  if (!(await storage.fetch(path))) throw notFound('picture of that render')
  return sendFile(event, path, 'image/jpeg', { lasting: true })
})
