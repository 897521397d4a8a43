const KEY = 'dusk-window'

/** This window's id; it survives a reload, so that undo does too. */
export function windowId(): string {
  let id = sessionStorage.getItem(KEY)
  if (!id) {
    id = crypto.randomUUID()
    sessionStorage.setItem(KEY, id)
  }
  return id
}
