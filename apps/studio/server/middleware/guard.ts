/** What is there before somebody was let in: the page that says how, its files, and whether the studio is up. */
const OPEN = /^\/(enter|open\/[^/]+|_nuxt\/.*|__nuxt.*|lantern\.svg|api\/health|api\/access)\/?$/

/** Only pages of this studio, in browsers that were let in, may speak to it. */
export default defineEventHandler(async (event) => {
  const refusal = foreign(event.method, event.headers)
  if (refusal) {
    setResponseStatus(event, refusal.status)
    return refusal.words
  }
  const { pathname, search } = getRequestURL(event)
  if (OPEN.test(pathname) || (await mayEnter(event.headers))) return
  if (pathname.startsWith('/api/')) return refuse(event, notLetIn())
  return sendRedirect(event, `/enter?to=${encodeURIComponent(pathname + search)}`)
})
