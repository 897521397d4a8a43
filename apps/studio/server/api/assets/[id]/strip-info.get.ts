/** How a source's film strip is laid out. */
export default defineApi(async (event) => {
  const { media } = await assetFile(idOf(event))
  if (!media.facts.strip) throw notFound('film strip')
  return media.facts.strip
})
