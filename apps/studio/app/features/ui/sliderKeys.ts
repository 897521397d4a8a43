/** Keys that a slider moves by; all others are the desk's. */
const OWN = /^(Arrow|Page|Home$|End$)/

/** Keeps the keys that a slider moves by to itself. */
export function keepSliderKeys(event: KeyboardEvent): void {
  if (OWN.test(event.key) && !event.altKey && !event.ctrlKey && !event.metaKey) event.stopPropagation()
}
