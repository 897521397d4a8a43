import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { parts, piece, Studio } from './tools/api'
import { colourBars, folder } from './tools/media'

test('renders are found by their names, a page at a time, those under way first', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Winter 100% quay', 320, 180, { num: 25, den: 1 })
  const bars = await studio.upload(id, colourBars(join(folder(), 'bars.mp4')))
  const { reelId, track } = parts(await studio.ready(id, [bars]))
  await studio.edit(id, { type: 'place', mode: 'free', pieces: [piece(track('Picture 1'), bars, null, 0, 1)] })
  const settings = { width: 64, height: 36, rate: { num: 25, den: 1 }, quality: 'draft', range: null, sound: false }
  for (const name of ['Ice one', 'Ice two', 'Snow']) await studio.render(id, reelId, name, settings)

  type List = { renders: { name: string }[]; more: boolean }
  const list = (asked: string) => studio.call<List>(`/renders?${asked}`)
  const names = async (asked: string) => (await list(asked)).renders.map(({ name }) => name)
  expect(await names('words=ice')).toEqual(['Ice two', 'Ice one'])
  expect(await names(`words=${encodeURIComponent('100%')}`)).toEqual(['Snow', 'Ice two', 'Ice one'])
  expect(await names(`words=${encodeURIComponent('_ce')}`)).toEqual([])
  expect(await list(`words=${encodeURIComponent('100%')}&count=2`)).toMatchObject({ more: true })
  expect(await list(`words=${encodeURIComponent('100%')}&count=3`)).toMatchObject({ more: false })

  // As on a page of many: the field is there, and the rest comes with a press.
  await page.route('**/api/renders?*', async (route) => {
    const url = new URL(route.request().url())
    const count = Number(url.searchParams.get('count'))
    url.searchParams.set('words', url.searchParams.get('words') || 'Winter 100%')
    url.searchParams.set('count', count > 200 ? '3' : '2')
    await route.continue({ url: url.href })
  })
  await page.goto('/renders')
  const done = page.getByRole('region', { name: 'Done' })
  await expect(done.getByText('Ice two')).toBeVisible()
  await expect(done.getByText('Ice one')).toHaveCount(0)
  await page.getByRole('button', { name: 'Earlier renders' }).click()
  await expect(done.getByText('Ice one')).toBeVisible()
  await page.reload()
  await page.getByLabel('Find a render by its name').fill('snow')
  await expect(done.getByText('Snow')).toBeVisible()
  await expect(done.getByText('Ice two')).toHaveCount(0)
  await page.getByLabel('Find a render by its name').fill('nothing like it')
  await expect(page.getByText('No render and no project is called that.')).toBeVisible()
})
