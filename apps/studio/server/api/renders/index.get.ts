/** Renders of all projects, newest first. */
export default defineApi(async () => ({ renders: await listRenders() }))
