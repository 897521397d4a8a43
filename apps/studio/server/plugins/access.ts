/** Without a key the studio does not start: nobody could be told from anybody else. */
export default defineNitroPlugin(() => {
  if (!import.meta.prerender) accessSettings()
})
