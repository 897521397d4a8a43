import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { Mask } from '@dusk/timeline'

/** Which mask is worked on on the picture. */
export const useMasks = defineStore('masks', () => {
  /** The effect whose mask it is, and which of its shapes; `null` for none. */
  const effectId = ref<string | null>(null)
  const shapeId = ref<string | null>(null)
  /** Radius of the brush in percent of the picture's height. */
  const radius = ref(6)
  /** A mask that was copied. */
  const copied = ref<Mask | null>(null)

  function edit(effect: string | null, shape: string | null = null): void {
    effectId.value = effect
    shapeId.value = shape
  }
  return { effectId, shapeId, radius, copied, edit }
})
