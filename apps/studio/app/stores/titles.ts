import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import type { Project } from '@dusk/timeline'
import { api } from '~/lib/api'
import type { OwnTitle } from '~~/shared/preferences'
import { useNotices } from './notices'

/** Titles that the person keeps for later. On the server, so every project has them. */
export const useTitles = defineStore('titles', () => {
  const own = shallowRef<OwnTitle[]>([])
  /** The clip whose words are being typed on the viewer. */
  const editing = shallowRef<string | null>(null)
  /** Letters that are marked in it. */
  const range = shallowRef<[number, number] | null>(null)
  /** The document with what is being typed, until it is kept. */
  const typed = shallowRef<Project | null>(null)
  let loaded = false

  async function load(): Promise<void> {
    if (loaded) return
    loaded = true
    const { value } = await api<{ value: OwnTitle[] | null }>('/settings/titles').catch(() => ({ value: null }))
    if (value) own.value = value
  }

  function put(list: OwnTitle[]): void {
    own.value = list
    api('/settings/titles', 'PUT', { value: list }).catch((error: Error) => useNotices().warn(error.message))
  }

  const keep = (title: OwnTitle) => put([...own.value, title])
  const drop = (id: string) => put(own.value.filter((entry) => entry.id !== id))

  return { own, editing, range, typed, load, keep, drop }
})
