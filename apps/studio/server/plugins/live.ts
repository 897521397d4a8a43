import { listen } from '@dusk/store'

/** Hands events from PostgreSQL on to the windows. */
export default defineNitroPlugin((nitro) => {
  if (import.meta.prerender) return
  const { connection, queue } = useServices()
  let stop: (() => Promise<void>) | null = null
  listen(connection, broadcast, () => broadcast({ kind: 'projects' })).then(
    (unlisten) => (stop = unlisten),
    (error: Error) => console.error(`Listening to the database failed: ${error.message}`),
  )
  nitro.hooks.hook('close', async () => {
    await stop?.().catch(() => {})
    await queue.stop().catch(() => {})
    await connection.close().catch(() => {})
  })
})
