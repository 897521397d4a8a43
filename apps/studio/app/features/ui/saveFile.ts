/** Milliseconds after which the browser has surely begun to read what is saved. */
const READ_MS = 10_000

/**
 * Has the browser save a file for the person.
 * @param content the file itself, or its address
 */
export function saveFile(content: Blob | string, name: string): void {
  const link = document.createElement('a')
  const url = typeof content === 'string' ? content : URL.createObjectURL(content)
  link.href = url
  link.download = name
  link.click()
  if (content instanceof Blob) setTimeout(() => URL.revokeObjectURL(url), READ_MS)
}
