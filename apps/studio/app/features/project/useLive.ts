import { useWebSocket } from '@vueuse/core'
import type { StoreEvent } from '@dusk/store'

/** Hears of changes on the server: of one project's, or with `null` of all. Reconnects by itself. */
export function useLive(projectId: string | null, hear: (event: StoreEvent) => void, again: () => void): void {
  const origin = location.origin.replace(/^http/, 'ws')
  let connected = false
  useWebSocket(`${origin}/api/live${projectId ? `?project=${projectId}` : ''}`, {
    heartbeat: { message: 'ping', responseMessage: 'pong', interval: 15_000 },
    autoReconnect: { retries: -1, delay: 1000 },
    onConnected() {
      if (connected) again()
      connected = true
    },
    onMessage(_socket, message) {
      if (message.data === 'pong') return
      hear(JSON.parse(message.data as string) as StoreEvent)
    },
  })
}
