import { onScopeDispose, ref, watch, type Ref } from 'vue'
import { watchDebounced } from '@vueuse/core'
import type { RenderEstimate, RenderSettings } from '@dusk/store'
import { api } from '~/features/ui/api'

/** What is asked about: a reel of a project, rendered with these settings. */
export interface EstimatedRender {
  projectId: string
  reelId: string
  settings: RenderSettings
}

/** Milliseconds without a change after which it is asked, and between two looks at what is known. */
const QUIET_MS = 1200
const LOOK_MS = 1000

/**
 * What a render would come to, found by having some of its parts made: they are kept, and the render finds them there.
 * @param wanted what is asked about; `null` as long as nothing is
 * @returns what is known so far, whether more is being found out, and why nothing can be
 */
export function useEstimate(wanted: Ref<EstimatedRender | null>) {
  const found = ref<RenderEstimate | null>(null)
  const looking = ref(false)
  const message = ref<string | null>(null)
  let asked: string | null = null
  let timer: ReturnType<typeof setTimeout> | undefined

  function end(): void {
    clearTimeout(timer)
    looking.value = false
    if (asked) void api(`/estimates/${asked}`, 'DELETE').catch(() => {})
    asked = null
  }

  async function look(id: string): Promise<void> {
    type Answer = { found: RenderEstimate | null; message: string | null; endedAt: string | null }
    const answer = await api<Answer>(`/estimates/${id}`).catch(() => null)
    if (asked !== id) return
    if (answer?.found) found.value = answer.found
    message.value = answer?.message ?? null
    if (!answer || answer.endedAt) looking.value = false
    else timer = setTimeout(() => void look(id), LOOK_MS)
  }

  async function ask({ projectId, reelId, settings }: EstimatedRender, mine: string): Promise<void> {
    const body = { reelId, settings }
    const answer = await api<{ id: string }>(`/projects/${projectId}/estimates`, 'POST', body).catch(() => null)
    if (!answer) return
    // It may have been changed, or put away, while it was on its way.
    if (current !== mine) return void api(`/estimates/${answer.id}`, 'DELETE').catch(() => {})
    asked = answer.id
    looking.value = true
    await look(answer.id)
  }

  let current: string | null = null
  const keyOf = (render: EstimatedRender | null) =>
    render && JSON.stringify({ reelId: render.reelId, settings: render.settings })
  watch(
    () => keyOf(wanted.value),
    (key) => {
      current = key
      found.value = message.value = null
      end()
    },
  )
  watchDebounced(
    () => keyOf(wanted.value),
    (key) => {
      if (key && key === current && wanted.value) void ask(wanted.value, key)
    },
    { debounce: QUIET_MS },
  )
  onScopeDispose(end)
  return { found, looking, message }
}
