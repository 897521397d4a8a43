import { listen } from '@dusk/store'

/** Pause before a database that was not there is asked again, in milliseconds. */
const RETRY_MS = 2000

/** Hands events from PostgreSQL on to the windows. */
export default defineNitroPlugin((nitro) => {
  if (import.meta.prerender) return
  const { connection, queue } = useServices()
  const missed = () => broadcast({ kind: 'missed' })
  let closed = false
  let stop: (() => Promise<void>) | null = null
  void begin(false)

  async function begin(late: boolean): Promise<void> {
    try {
      stop = await listen(connection, broadcast, missed)
      if (late) missed()
    } catch (error) {
      if (closed) return
      console.error(`Listening to the database failed: ${(error as Error).message}`)
      setTimeout(() => void begin(true), RETRY_MS)
    }
  }

  nitro.hooks.hook('close', async () => {
    closed = true
    await stop?.().catch(() => {})
    await queue.stop().catch(() => {})
    await connection.close().catch(() => {})
  })
})
