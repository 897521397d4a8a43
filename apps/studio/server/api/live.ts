import { z } from 'zod'

/** One WebSocket a window: tells that edits, sources or renders changed; the window then fetches what it lacks. */
export default defineWebSocketHandler({
  async upgrade(request) {
    const headers = new Headers(request.headers)
    const refusal = foreign('GET', headers)
    if (refusal) throw new Response(refusal.detail, { status: refusal.status })
    if (!(await mayEnter(headers))) throw new Response(notLetIn().detail, { status: 401 })
  },
  open(peer) {
    const url = new URL(peer.request?.url ?? '', 'http://local')
    const project = z.uuid().safeParse(url.searchParams.get('project'))
    join(peer, project.success ? project.data : null)
  },
  message(peer, message) {
    if (message.text() === 'ping') peer.send('pong')
  },
  close(peer) {
    leave(peer)
  },
  error(peer) {
    leave(peer)
  },
})
