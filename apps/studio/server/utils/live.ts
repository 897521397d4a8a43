import type { Peer } from 'crossws'
import type { StoreEvent } from '@dusk/store'

const peers = new Map<string, { peer: Peer; projectId: string | null }>()

export function join(peer: Peer, projectId: string | null): void {
  peers.set(peer.id, { peer, projectId })
}

export function leave(peer: Peer): void {
  peers.delete(peer.id)
}

/** Tells the windows that an event concerns. Media may be used by any project, so everyone hears of them. */
export function broadcast(event: StoreEvent): void {
  const text = JSON.stringify(event)
  for (const { peer, projectId } of peers.values()) {
    if ('projectId' in event && projectId !== null && event.projectId !== projectId) continue
    peer.send(text)
  }
}
