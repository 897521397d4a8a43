/** A link that lets one browser in, once. Only for whoever has the data folder's key. */
export default defineApi((event) => {
  if (!hasKey(event.headers))
    throw new Problem(403, 'Not allowed', 'Links are made by ./dusk open, with the key of the data folder.')
  setResponseStatus(event, 201)
  return { path: `/open/${links.issue()}`, minutes: LINK_MINUTES }
})
