/** A .cube file that an effect names. */
export default defineApi(async (event) => {
  const { storage } = useServices()
  const path = storage.given(hashOf(event))
  if (!(await storage.fetch(path))) throw notFound('.cube file')
  return sendFile(event, path, 'text/plain; charset=utf-8', { lasting: true })
})
