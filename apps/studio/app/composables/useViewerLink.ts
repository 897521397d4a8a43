import { onScopeDispose, watch } from 'vue'
import type { Player } from '~/lib/player'
import { useProject } from '~/stores/project'

/** Where the desk is, said to viewers in windows of their own. */
export interface ViewerPlace {
  tick: number
  reelId: string
}

const channelOf = (projectId: string) => `dusk-viewer ${projectId}`

/** Tells viewers in other windows of this browser where the playhead is. */
export function useViewerLead(player: Player): { open: () => void } {
  const project = useProject()
  let channel: BroadcastChannel | null = null
  const say = () => channel?.postMessage({ tick: player.tick.value, reelId: project.reelId } satisfies ViewerPlace)
  watch(
    () => project.id,
    (id) => {
      channel?.close()
      channel = id ? new BroadcastChannel(channelOf(id)) : null
      // A viewer that has just opened asks where to begin.
      if (channel) channel.onmessage = ({ data }) => data === 'where' && say()
    },
    { immediate: true },
  )
  watch([player.tick, () => project.reelId], say)
  onScopeDispose(() => channel?.close())
  return { open: () => void window.open(`/viewer/${project.id}`, `viewer ${project.id}`, 'popup,width=960,height=600') }
}

/** Follows the desk of another window. */
export function useViewerFollow(projectId: string, follow: (place: ViewerPlace) => void): void {
  const channel = new BroadcastChannel(channelOf(projectId))
  channel.onmessage = ({ data }) => data !== 'where' && follow(data as ViewerPlace)
  channel.postMessage('where')
  onScopeDispose(() => channel.close())
}
