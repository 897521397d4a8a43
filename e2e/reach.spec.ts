import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { Studio } from './tools/api'
import { faults } from './tools/axe'
import { colourBars, folder, song } from './tools/media'

const DRAWER = 'main .splitpanes__pane .splitpanes__pane .splitpanes__pane:first-child'
const DIALOG = '[role=dialog]'

test('every view can be reached and read without eyes or mouse, as far as axe can tell', async ({
  page,
  baseURL,
  browser,
}) => {
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
  expect(await faults(page, DIALOG), 'new project').toEqual([])

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
  expect(await faults(page, '[role=menu]'), 'a menu').toEqual([])
  await page.keyboard.press('Escape')

  const rail = page.getByRole('navigation', { name: 'Drawers' })
  for (const name of ['Stock', 'Transitions', 'Titles', 'Effects', 'Sound', 'Markers']) {
    await rail.getByRole('button', { name }).click()
    await page.getByRole('heading', { name, exact: true }).first().waitFor()
    expect(await faults(page, DRAWER), name).toEqual([])
  }
  await page.getByRole('button', { name: 'Render', exact: true }).click()
  await page.getByRole('heading', { name: 'Render', exact: true }).waitFor()
  expect(await faults(page, DIALOG), 'rendering').toEqual([])
  await page.keyboard.press('Escape')
  await rail.getByRole('button', { name: 'Keys' }).click()
  await page.getByRole('heading', { name: 'Shortcuts' }).waitFor()
  expect(await faults(page, DIALOG), 'shortcuts').toEqual([])
  await page.goto('/renders')
  await page.getByRole('heading', { name: 'Renders' }).waitFor()
  expect(await faults(page), 'renders').toEqual([])
  await page.goto('/disk')
  await page.getByRole('list', { name: 'What takes room' }).waitFor()
  expect(await faults(page), 'room on disk').toEqual([])
  const stranger = await (await browser.newContext({ storageState: { cookies: [], origins: [] } })).newPage()
  await stranger.goto(`${baseURL}/enter`)
  await stranger.getByRole('heading', { name: 'This browser has no key yet' }).waitFor()
  expect(await faults(stranger), 'without a key').toEqual([])
  await stranger.context().close()
})
