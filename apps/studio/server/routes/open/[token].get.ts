/** Opens a link: the browser is let in, and the link is used up. */
export default defineOpenApi(async (event) => {
  setHeader(event, 'cache-control', 'no-store')
  if (links.take(getRouterParam(event, 'token') ?? '')) await letIn(event, 'link')
  else if (!(await mayEnter(event.headers))) return sendRedirect(event, '/enter?link=old')
  return sendRedirect(event, '/')
})
