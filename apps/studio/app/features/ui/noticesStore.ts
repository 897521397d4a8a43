import { defineStore } from 'pinia'
import { ref } from 'vue'

/** A message at the foot of the page. */
export interface Notice {
  id: number
  tone: 'plain' | 'warning'
  text: string
  actions: readonly NoticeAction[]
}

/** Something that a message offers. */
export interface NoticeAction {
  label: string
  run: () => void
}

const SECONDS = 8

/** Short messages: what was refused and why, and offers to take things back. */
export const useNotices = defineStore('notices', () => {
  const list = ref<Notice[]>([])
  let count = 0

  function say(text: string, tone: Notice['tone'] = 'plain', ...actions: NoticeAction[]): void {
    if (list.value.some((notice) => notice.text === text)) return
    const id = ++count
    list.value = [...list.value, { id, tone, text, actions }].slice(-4)
    setTimeout(() => drop(id), SECONDS * 1000)
  }

  function drop(id: number): void {
    list.value = list.value.filter((notice) => notice.id !== id)
  }

  return { list, say, drop, warn: (text: string) => say(text, 'warning') }
})
