/** A project's page. */
const PAGE = /^\/projects\/([\da-f-]{36})\/?$/

/** The project is fetched while the page's scripts are: it is there when they ask for it. */
export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('render:html', (html, { event }) => {
    const [, id] = PAGE.exec(getRequestURL(event).pathname) ?? []
    if (id) html.head.push(`<link rel="preload" as="fetch" crossorigin href="/api/projects/${id}">`)
  })
})
