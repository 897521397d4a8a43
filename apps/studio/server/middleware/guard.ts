/** Only pages of this studio, in browsers that were let in, may speak to it. */
export default defineEventHandler(async (event) => {
  // What the router goes by, not what a browser would make of it: `plugins/doors.ts` lets straight ones in only.
  const path = event.path.split('?', 1)[0]!
  const asksApi = path.startsWith('/api/')
  const refusal = foreign(event.method, event.headers)
  if (refusal && asksApi) return refuse(event, refusal)
  if (refusal) {
    setResponseStatus(event, refusal.status)
    setHeader(event, 'content-type', 'text/plain; charset=utf-8')
    return refusal.detail
  }
  event.context.letIn = await mayEnter(event.headers)
  if (event.context.letIn || isOpen(event.method, path)) return
  if (asksApi) return refuse(event, notLetIn())
  return sendRedirect(event, `/enter?to=${encodeURIComponent(event.path)}`)
})
