/** The finished file; with `?download` under the name it was given. */
export default defineApi(async (event) => {
  const { name, path, delivery } = await finishedRender(idOf(event))
  const { ending, type } = delivery
  const bare = name.toLowerCase().endsWith(`.${ending}`) ? name.slice(0, -ending.length - 1) : name
  const download = 'download' in getQuery(event) ? `${bare}.${ending}` : undefined
  return sendFile(event, path, type, { download, lasting: true })
})
