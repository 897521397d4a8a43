/** Resumable uploads; see `uploadServer`. */
export default defineApi((event) => uploadServer().handle(event.node.req, event.node.res))
