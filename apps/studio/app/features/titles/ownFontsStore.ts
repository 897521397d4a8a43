import { defineStore } from 'pinia'
import type { OwnFont } from '@dusk/timeline'
import { usePersonSetting } from '~/features/ui/usePersonSetting'
import type { KeptFont } from '~~/shared/preferences'

/** Font files that the person added, offered in every project. */
export const useOwnFonts = defineStore('ownFonts', () => {
  const { value: list, load, change } = usePersonSetting<KeptFont[]>('fonts', [])
  const keep = ({ hash, name }: OwnFont) => change({ path: [hash], value: { id: hash, name } })
  const drop = (hash: string) => change({ path: [hash] })
  return { list, load, keep, drop }
})
