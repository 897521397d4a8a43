import { ref, type Ref } from 'vue'
import { useNotices } from './noticesStore'

/**
 * Sends the file that is chosen in a field to the server, and says in words when it can't be used.
 * @param input the field; it is emptied, so that the same file can be chosen again
 * @param url where files go; it answers with the file's hash, or with what is wrong with it as `detail`
 * @param taken hears what the server made of the file
 */
export function useFileSend<Answer extends { hash: string }>(
  input: Ref<HTMLInputElement | null>,
  url: string,
  taken: (answer: Answer) => Promise<void> | void,
) {
  const notices = useNotices()
  const sending = ref(false)

  async function send(): Promise<void> {
    const file = input.value?.files?.[0]
    if (!file) return
    sending.value = true
    try {
      const answer = await fetch(url, { method: 'POST', body: file })
      const found = (await answer.json()) as Partial<Answer> & { detail?: string }
      if (found.hash) await taken(found as Answer)
      else notices.warn(`${file.name} can’t be used. ${found.detail ?? 'The server did not say why.'}`)
    } catch {
      notices.warn(`${file.name} could not be sent. Try again.`)
    } finally {
      sending.value = false
      if (input.value) input.value.value = ''
    }
  }

  return { sending, send }
}
