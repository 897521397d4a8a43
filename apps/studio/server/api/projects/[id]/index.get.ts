/** A project's document with its place in the log, and the state of its sources. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { log } = useServices()
  const { project, seq, leftOut } = await log.read(id)
  return { project, seq, leftOut: leftOut.map(({ words }) => words), ...(await projectSources(id)) }
})
