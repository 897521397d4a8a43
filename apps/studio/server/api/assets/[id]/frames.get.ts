/** When each frame of a source begins: its frame table. */
export default defineApi(async (event) => {
  const { media } = await assetFile(idOf(event))
  if (!media.facts.table) throw notFound('frame table')
  return media.facts.table
})
