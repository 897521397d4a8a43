import { defineStore } from 'pinia'
import { ref } from 'vue'

/** Whether scopes and zebra are asked for. */
export const useScopes = defineStore('scopes', () => {
  const open = ref(false)
  const zebra = ref(false)
  return { open, zebra }
})
