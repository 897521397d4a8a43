/** Where a WebSocket is answered. */
const SOCKETS = new Set(['/api/live'])

/**
 * Judges each address as it came, before anything reads it: guard and router see the same string, or neither does. A
 * socket is opened where one is answered and nowhere else.
 */
export default defineNitroPlugin((nitro) => {
  const { h3App } = nitro
  const handle = h3App.handler
  h3App.handler = Object.assign((event: Parameters<typeof handle>[0]) => {
    const { req, res } = event.node
    if (accessSettings().secure) res.setHeader('Strict-Transport-Security', 'max-age=31536000')
    // Development serves its modules by addresses of its own.
    if (isStraight(req.url ?? '') || (import.meta.dev && req.url?.startsWith('/_nuxt/'))) return handle(event)
    const { status, title, detail } = crooked()
    res.writeHead(status, { 'content-type': 'application/problem+json', connection: 'close' })
    res.end(JSON.stringify({ type: 'about:blank', title, status, detail }))
    return Promise.resolve()
  }, handle) as typeof handle

  const sockets = h3App.websocket
  const resolve = sockets.resolve!
  sockets.resolve = async (info) => {
    // Before a socket is there it is the request itself that is given.
    const { request, url = '' } = info as { request?: { url?: string }; url?: string }
    const raw = (request?.url ?? url).replace(/^https?:\/\/[^/?#]*/, '')
    if (isStraight(raw) && SOCKETS.has(raw.split('?', 1)[0]!)) return await resolve(info)
    return {
      upgrade: () => {
        throw new Response('No socket is answered here.', { status: 404 })
      },
    }
  }
})
