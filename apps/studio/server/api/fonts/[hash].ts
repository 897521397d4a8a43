/** A font file that a title names. */
export default defineApi(async (event) => {
  const { storage } = useServices()
  const path = storage.given(hashOf(event))
  if (!(await storage.fetch(path))) throw notFound('font file')
  return sendFile(event, path, 'font/ttf', { lasting: true })
})
