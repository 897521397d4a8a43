import { useWebSocket } from '@vueuse/core'
import type { StoreEvent } from '@dusk/store'

/**
 * Hears of changes on the server: of one project's, or with `null` of all. Reconnects by itself.
 * @param again called whenever changes may have been missed: with each connection, the first too, since what the page
 * shows was fetched before it
 */
export function useLive(projectId: string | null, hear: (event: StoreEvent) => void, again: () => void): void {
  const origin = location.origin.replace(/^http/, 'ws')
  useWebSocket(`${origin}/api/live${projectId ? `?project=${projectId}` : ''}`, {
    heartbeat: { message: 'ping', responseMessage: 'pong', interval: 15_000 },
    autoReconnect: { retries: -1, delay: 1000 },
    onConnected: () => again(),
    onMessage(_socket, message) {
      if (message.data === 'pong') return
      const event = JSON.parse(message.data as string) as StoreEvent
      if (event.kind === 'missed') again()
      else hear(event)
    },
  })
}
