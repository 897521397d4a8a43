import { expect, test } from '@playwright/test'
import { SECOND, Studio, type ProjectState } from './tools/api'

test('renders are put in order, paused, gone on with, looked into, and made again with changes', async ({
  page,
  baseURL,
}) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Sparks', 640, 360, { num: 25, den: 1 })
  const { project } = await studio.call<ProjectState>(`/projects/${id}`)
  const [reelId] = Object.keys(project.reels)
  const trackId = Object.values(project.tracks).find((track) => track.name === 'Picture 1')!.id
  const sparks = { kind: 'generator', generator: 'sparks', settings: {}, trackId }
  const generated = Array.from({ length: 15 }, (_, i) => ({
    ...{ ...sparks, clipId: crypto.randomUUID(), start: i * 4 * SECOND, length: 4 * SECOND },
  }))
  await studio.edit(id, { type: 'addGenerated', mode: 'free', generated })
  const settings = { width: 640, height: 360, rate: { num: 25, den: 1 }, quality: 'draft', range: null, sound: true }
  const ask = (name: string, change: object) =>
    studio.call<{ id: string }>(`/projects/${id}/renders`, 'POST', {
      ...{ reelId, name, settings: { ...settings, ...change } },
    })
  await ask('First', {})
  await ask('Second', { width: 320, height: 180, range: { from: 0, to: 4 * SECOND }, title: 'Two' })
  await ask('Third', { width: 320, height: 180, range: { from: 0, to: 2 * SECOND } })
  await page.goto('/renders')
  const open = page.getByRole('region', { name: 'Under way' })
  const card = (name: string) => page.getByRole('article', { name: `Render ${name}` })
  const order = () => open.getByRole('heading').allTextContents()

  // The first is drawn in parts; each is shown, with the picture that was made last.
  await expect(card('First').getByRole('img', { name: /of 15 parts made/ })).toBeVisible()
  await expect(card('First').getByRole('img', { name: 'The last part that was made' })).toBeVisible()
  await expect(card('First')).toContainText('times as fast as it plays')
  await expect.poll(order).toEqual(['First', 'Second', 'Third'])
  // By key, and by hand.
  await page.getByRole('button', { name: 'Move Third' }).press('ArrowUp')
  await expect.poll(order).toEqual(['First', 'Third', 'Second'])
  await page.getByRole('button', { name: 'Move Second' }).dragTo(card('Third'))
  await expect.poll(order).toEqual(['First', 'Second', 'Third'])

  // A pause lets the others go ahead; what was made is kept.
  await card('First').getByRole('button', { name: 'Pause' }).click()
  await expect(card('First')).toContainText('paused')
  await expect(card('Second').getByRole('link', { name: 'Download' })).toBeVisible()
  await expect(card('Third').getByRole('link', { name: 'Download' })).toBeVisible()
  await card('First').getByRole('button', { name: 'Go on' }).click()
  await expect(card('First').getByRole('link', { name: 'Download' })).toBeVisible()
  await expect(card('First')).toContainText(/1500 frames.*of 15 parts were there already/)

  await card('First').getByRole('button', { name: 'What is in it' }).click()
  await expect(card('First')).toContainText('640 × 360, 25 frames/s')
  await expect(card('First').getByRole('img', { name: /^Data: / })).toBeVisible()
  const strip = card('First').getByRole('img', { name: 'Pictures along the film' })
  await expect.poll(() => strip.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(8 * 160)

  // Made again it begins with what it was, its range and words too.
  await card('Second').getByRole('link', { name: 'Again, changed' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByLabel('Name', { exact: true })).toHaveValue('Second')
  await expect(dialog).toContainText('320 × 180')
  await expect(dialog).toContainText('What is marked, 0:00:00:00 to 0:00:04:00')
})
