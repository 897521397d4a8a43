/** What one edit changed, for it to be taken back or done again. */
export default defineApi(async (event) => {
  const found = await useServices().log.patches(idOf(event), idOf(event, 'edit'))
  if (!found) throw notFound('edit')
  return found
})
