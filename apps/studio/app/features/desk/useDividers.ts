import { nextTick, onMounted, watch, type Ref } from 'vue'

/**
 * Says of the dividers between panels where they stand, for who does not see them.
 * @param changes what they depend on
 */
export function useDividers(floor: Ref<HTMLElement | null>, changes: () => unknown): void {
  async function say(): Promise<void> {
    await nextTick()
    // The library puts its dividers in after its panels.
    await nextTick()
    for (const divider of floor.value?.querySelectorAll<HTMLElement>('.splitpanes__splitter') ?? []) {
      const pane = divider.previousElementSibling
      if (!(pane instanceof HTMLElement)) continue
      const size = Math.round(parseFloat(pane.style.width || pane.style.height) || 0)
      divider.setAttribute('aria-valuenow', String(size))
      divider.setAttribute('aria-valuetext', `${size} percent`)
      divider.setAttribute('aria-label', 'Divider between two parts of the desk. Arrow keys move it.')
    }
  }
  onMounted(say)
  watch([floor, changes], () => void say(), { flush: 'post' })
}
