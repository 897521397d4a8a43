import { z } from 'zod'

/** One WebSocket a window: tells that edits, sources or renders changed; the window then fetches what it lacks. */
export default defineWebSocketHandler({
  upgrade(request) {
    const host = request.headers.get('host') ?? ''
    const origin = request.headers.get('origin')
    if (origin && origin !== `http://${host}`) throw new Response('Forbidden', { status: 403 })
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
