import type { VueWrapper } from '@vue/test-utils'
import ChoiceField from '~/features/ui/ChoiceField.vue'
import ChoiceList from '~/features/ui/ChoiceList.vue'

/** An element by what it is called for those who don't see it; numbers also name their unit. */
export function called(wrapper: VueWrapper, name: string) {
  const found = wrapper.find(`[aria-label="${name}"], [aria-label^="${name}, in "]`)
  if (!found.exists()) throw new Error(`Nothing here is called ${name}.`)
  return found
}

/** A button by its words. */
export function button(wrapper: VueWrapper, words: string) {
  const found = wrapper.findAll('button').find((entry) => entry.text() === words)
  if (!found) throw new Error(`No button says ${words}.`)
  return found
}

/** Types a value into a field of numbers, and leaves it. */
export async function typeNumber(wrapper: VueWrapper, label: string, text: string): Promise<void> {
  const field = called(wrapper, label)
  await field.trigger('focus')
  await field.setValue(text)
  await field.trigger('blur')
}

/** Types over a field that is kept when it is left. */
export async function typeText(wrapper: VueWrapper, label: string, text: string): Promise<void> {
  const field = called(wrapper, label)
  ;(field.element as HTMLInputElement).value = text
  await field.trigger('change')
}

/** Takes one of several named values by its name. */
export async function choose(wrapper: VueWrapper, label: string, option: string): Promise<void> {
  const field = [ChoiceField, ChoiceList]
    .flatMap((kind) => wrapper.findAllComponents(kind as never))
    .find((entry) => (entry as VueWrapper).props('label' as never) === label) as VueWrapper
  if (!field) throw new Error(`There is no choice ${label}.`)
  const options = field.props('options' as never) as readonly { value: string | number; label: string }[]
  const found = options.find((entry) => entry.label === option)
  if (!found) throw new Error(`${label} has no ${option}, but: ${options.map((entry) => entry.label).join(', ')}.`)
  field.vm.$emit('change', found.value)
  await wrapper.vm.$nextTick()
}
