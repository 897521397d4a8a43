import { useLocalStorage } from '@vueuse/core'
import { computed, ref, type Ref } from 'vue'
import {
  canFit,
  copiesStreams,
  deliveryOf,
  HARDWARE_ENCODERS,
  type HardwareId,
  type PurposeSettings,
} from '@dusk/interchange'
import { api } from '~/features/ui/api'

/**
 * Encoders in graphics chips that were proved to work, and the one that a file is encoded by; remembered in this
 * browser. Files that only processors can make leave it aside.
 */
export function useHardware(settings: Ref<PurposeSettings>) {
  const proven = ref<HardwareId[]>([])
  const wanted = useLocalStorage<HardwareId | ''>('dusk.encodedBy', '')
  /** Those that can make what is asked for. */
  const encoders = computed(() => {
    const delivery = deliveryOf(settings.value.format)
    const fits = settings.value.megabytes !== null && canFit(delivery)
    if (fits || copiesStreams(settings.value) || (delivery.alpha && settings.value.alpha)) return []
    return proven.value.filter((id) => HARDWARE_ENCODERS[id].picture === delivery.picture)
  })
  const hardware = computed(() => encoders.value.find((id) => id === wanted.value) ?? null)
  /** What can be chosen from; nothing where only processors can make it. */
  const choices = computed(() =>
    encoders.value.length === 0
      ? []
      : [
          { value: '' as HardwareId | '', label: 'The processors' },
          ...encoders.value.map((value) => ({ value, label: HARDWARE_ENCODERS[value].label })),
        ],
  )

  async function load(): Promise<void> {
    const { encoders: found } = await api<{ encoders: HardwareId[] }>('/hardware').catch(() => ({ encoders: [] }))
    proven.value = found
  }

  return { hardware, choices, load, choose: (id: HardwareId | '') => (wanted.value = id) }
}
