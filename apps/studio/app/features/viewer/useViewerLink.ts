import { onScopeDispose, watch } from 'vue'
import type { Player } from '~/features/player/player'
import { useSource } from '~/features/player/sourceStore'
import { useProject } from '~/features/project/projectStore'

/** Where the desk is, said to viewers in windows of their own. */
export interface ViewerPlace {
  tick: number
  reelId: string
  /** It plays: more places follow. */
  running: boolean
}

const channelOf = (projectId: string) => `dusk-viewer ${projectId}`

/** Tells viewers in other windows of this browser where the playhead is. */
export function useViewerLead(player: Player): { open: () => void } {
  const project = useProject()
  let channel: BroadcastChannel | null = null
  /** Nobody is told before somebody has asked. */
  let followed = false
  const source = useSource()
  function say(): void {
    if (!followed) return
    // A source is watched on the desk alone: the reel stays where it was left.
    const [tick, running] = source.assetId ? [source.parked, false] : [player.place(), player.playing.value]
    channel?.postMessage({ tick, reelId: project.reelId, running } satisfies ViewerPlace)
  }
  watch(
    () => project.id,
    (id) => {
      channel?.close()
      channel = id ? new BroadcastChannel(channelOf(id)) : null
      if (!channel) return
      channel.onmessage = ({ data }) => {
        if (data !== 'where') return
        followed = true
        say()
      }
      // A viewer that was there before asks anew.
      channel.postMessage('desk')
    },
    { immediate: true },
  )
  watch([player.tick, () => project.reelId, () => source.assetId, player.playing], () => !player.playing.value && say())
  onScopeDispose(player.onFrame(say))
  onScopeDispose(() => channel?.close())
  return { open: () => void window.open(`/viewer/${project.id}`, `viewer ${project.id}`, 'popup,width=960,height=600') }
}

/** Follows the desk of another window. */
export function useViewerFollow(projectId: string, follow: (place: ViewerPlace) => void): void {
  const channel = new BroadcastChannel(channelOf(projectId))
  channel.onmessage = ({ data }) => {
    if (data === 'desk') channel.postMessage('where')
    else if (data !== 'where') follow(data as ViewerPlace)
  }
  channel.postMessage('where')
  onScopeDispose(() => channel.close())
}
