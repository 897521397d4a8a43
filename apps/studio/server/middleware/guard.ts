/** What is there before somebody was let in: the page that says how, its files, and whether the studio is up. */
const OPEN = /^\/(enter|open\/[^/]+|_nuxt\/.*|__nuxt.*|lantern\.svg|api\/health|api\/access)\/?$/

/** Only pages of this studio, in browsers that were let in, may speak to it. */
export default defineEventHandler(async (event) => {
  const { pathname, search } = getRequestURL(event)
  const asksApi = pathname.startsWith('/api/')
  const refusal = foreign(event.method, event.headers)
  if (refusal && asksApi) return refuse(event, refusal)
  if (refusal) {
    setResponseStatus(event, refusal.status)
    setHeader(event, 'content-type', 'text/plain; charset=utf-8')
    return refusal.detail
  }
  if (OPEN.test(pathname) || (await mayEnter(event.headers))) return
  if (asksApi) return refuse(event, notLetIn())
  return sendRedirect(event, `/enter?to=${encodeURIComponent(pathname + search)}`)
})
