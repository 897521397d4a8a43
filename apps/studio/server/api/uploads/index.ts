/** Resumable uploads; see `uploadServer`. */
export default defineEventHandler((event) => uploadServer().handle(event.node.req, event.node.res))
