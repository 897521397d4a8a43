import { join } from 'node:path'
import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { Studio } from './tools/api'
import { colourBars, folder, song } from './tools/media'

/** What axe finds wrong with what is shown, as lines to read. */
async function faults(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).options({ resultTypes: ['violations'] }).analyze()
  return violations.flatMap(({ id, nodes }) => nodes.map((node) => `${id}: ${node.html.slice(0, 160)}`))
}

test('every view can be reached and read without eyes or mouse, as far as axe can tell', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  const id = await studio.createProject('Reach', 1280, 720, { num: 30, den: 1 })
  const bars = await studio.upload(id, colourBars(join(dir, 'bars.mp4')))
  await studio.ready(id, [bars, await studio.upload(id, song(join(dir, 'chord.wav')))])

  await page.goto('/')
  await page.getByRole('link', { name: 'Open Reach' }).waitFor()
  expect(await faults(page), 'projects').toEqual([])
  await page.getByRole('button', { name: 'New project' }).click()
  await page.getByRole('heading', { name: 'New project' }).waitFor()
  expect(await faults(page), 'new project').toEqual([])

  await page.goto(`/projects/${id}`)
  const card = page.getByRole('button', { name: /^bars\.mp4, video/ })
  await card.focus()
  await page.keyboard.press('Enter')
  const clip = page.getByRole('button', { name: /^bars\.mp4 on Picture 1/ })
  await clip.waitFor()
  expect(await faults(page), 'desk').toEqual([])
  await clip.focus()
  await page.keyboard.press('Enter')
  await page.getByLabel('Name of the clip').waitFor()
  expect(await faults(page), 'a clip’s details').toEqual([])
  await card.focus()
  await page.keyboard.press('Space')
  await page.getByTestId('source-strip').waitFor()
  expect(await faults(page), 'a source').toEqual([])
  await card.click({ button: 'right' })
  await page.getByRole('menu').waitFor()
  expect(await faults(page), 'a menu').toEqual([])
  await page.keyboard.press('Escape')

  const rail = page.getByRole('navigation', { name: 'Drawers' })
  for (const name of ['Stock', 'Transitions', 'Titles', 'Effects', 'Sound', 'Markers']) {
    await rail.getByRole('button', { name }).click()
    await page.getByRole('heading', { name, exact: true }).first().waitFor()
    expect(await faults(page), name).toEqual([])
  }
  await page.getByRole('button', { name: 'Render', exact: true }).click()
  await page.getByRole('heading', { name: 'Render', exact: true }).waitFor()
  expect(await faults(page), 'rendering').toEqual([])
  await page.keyboard.press('Escape')
  await rail.getByRole('button', { name: 'Keys' }).click()
  await page.getByRole('heading', { name: 'Shortcuts' }).waitFor()
  expect(await faults(page), 'shortcuts').toEqual([])
  await page.goto('/renders')
  await page.getByRole('heading', { name: 'Renders' }).waitFor()
  expect(await faults(page), 'renders').toEqual([])
  await page.goto('/disk')
  await page.getByRole('list', { name: 'What takes room' }).waitFor()
  expect(await faults(page), 'room on disk').toEqual([])
})
