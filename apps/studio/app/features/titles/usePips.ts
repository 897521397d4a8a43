import { until } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { GeneratorClip } from '@dusk/timeline'
import { api } from '~/features/ui/api'
import { PIPS, planPips } from './pips'
import { windowId } from '~/features/ui/windowId'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'

/** How long reading in a thing of the stock may take. */
const PATIENCE_MS = 20_000

/** Puts a tone to each second of a countdown; the sound comes from the stock. */
export function usePips() {
  const project = useProject()
  const notices = useNotices()
  const busy = ref(false)
  const asset = computed(() => Object.values(project.document?.assets ?? {}).find(({ name }) => name === PIPS))

  async function add(clip: GeneratorClip, from: number): Promise<void> {
    busy.value = true
    try {
      if (!asset.value) {
        await api(`/projects/${project.id}/stock`, 'POST', { name: PIPS, windowId: windowId() })
        project.refreshSources()
        await until(asset).toBeTruthy({ timeout: PATIENCE_MS })
      }
      if (!asset.value) return notices.warn('The tone could not be read in yet. Try again in a moment.')
      const plan = planPips(project.document!, clip, asset.value, from)
      if (typeof plan === 'string') notices.warn(plan)
      else if (project.performAll(plan, 'Put a tone to each second')) notices.say('A tone sounds on each second.')
    } catch (error) {
      notices.warn((error as Error).message)
    } finally {
      busy.value = false
    }
  }

  return { busy, add }
}
