import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'

/** What axe finds wrong with what is shown, or with a part of it that is new, as lines to read. */
export async function faults(page: Page, part = 'html'): Promise<string[]> {
  const axe = new AxeBuilder({ page }).include(part).options({ resultTypes: ['violations'] })
  const { violations } = await axe.analyze()
  return violations.flatMap(({ id, nodes }) => nodes.map((node) => `${id}: ${node.html.slice(0, 160)}`))
}
