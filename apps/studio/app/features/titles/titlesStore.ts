import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import type { Project } from '@dusk/timeline'
import { usePersonSetting } from '~/features/ui/usePersonSetting'
import type { OwnTitle } from '~~/shared/preferences'

/** Titles that the person keeps for later, and the one that is being typed. */
export const useTitles = defineStore('titles', () => {
  const { value: own, load, change } = usePersonSetting<OwnTitle[]>('titles', [])
  /** The clip whose words are being typed on the viewer. */
  const editing = shallowRef<string | null>(null)
  /** Letters that are marked in it. */
  const range = shallowRef<[number, number] | null>(null)
  /** The document with what is being typed, until it is kept. */
  const typed = shallowRef<Project | null>(null)

  const keep = (title: OwnTitle) => change({ path: [title.id], value: title as never })
  const drop = (id: string) => change({ path: [id] })

  return { own, editing, range, typed, load, keep, drop }
})
