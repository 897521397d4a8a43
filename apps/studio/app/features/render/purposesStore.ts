import { defineStore } from 'pinia'
import { usePersonSetting } from '~/features/ui/usePersonSetting'
import type { OwnPurpose } from '@dusk/interchange'

/** What the person makes files for, kept under names of their own. */
export const usePurposes = defineStore('purposes', () => {
  const { value: own, load, change } = usePersonSetting<OwnPurpose[]>('purposes', [])
  const keep = (purpose: OwnPurpose) => change({ path: [purpose.id], value: purpose as never })
  const drop = (id: string) => change({ path: [id] })
  return { own, load, keep, drop }
})
