/** The state of a project's sources and of files on their way in. */
export default defineApi((event) => projectSources(idOf(event)))
