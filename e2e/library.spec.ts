import { readFileSync } from 'node:fs'
import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { connect, assets } from '@dusk/store'
import { FolderStorage } from '@dusk/media'
import { eq } from 'drizzle-orm'
import { Studio, type ProjectState } from './tools/api'
import { chooseFiles } from './tools/choose'
import { folder, song } from './tools/media'

/** Where the bytes of a source lie. */
async function originalOf(assetId: string): Promise<string> {
  const connection = connect(process.env.DATABASE_URL!, 1)
  const [row] = await connection.db.select({ hash: assets.hash }).from(assets).where(eq(assets.id, assetId))
  await connection.close()
  return new FolderStorage(process.env.DUSK_MEDIA!).original(row!.hash!)
}

test('the stock fills the library; sources are filed, found, and get a lost file back', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Library', 640, 360, { num: 25, den: 1 })
  const path = song(join(folder(), 'evening chord.wav'), 247)
  const chord = await studio.upload(id, path)
  await studio.ready(id, [chord])
  await page.goto(`/projects/${id}`)
  await page.getByRole('button', { name: 'Stock', exact: true }).click()
  await page.getByRole('button', { name: 'Backgrounds' }).click()
  await page.getByRole('button', { name: 'Add Ripples to the footage' }).click()
  await page.getByRole('button', { name: 'Footage', exact: true }).click()
  const entry = (name: RegExp) => page.getByTestId('footage-list').getByRole('button', { name })
  await expect(entry(/^ripples\.jpg, still/)).toBeVisible()

  // Filed: what is selected goes into the new folder, and the way back shows the rest.
  await entry(/^ripples\.jpg/).click()
  await page.getByRole('button', { name: 'New folder' }).click()
  await page.getByLabel('Name of the folder').fill('Grounds')
  await page.keyboard.press('Enter')
  await expect(entry(/^ripples\.jpg/)).toHaveCount(0)
  await page.getByRole('button', { name: 'Grounds', exact: true }).click()
  await expect(entry(/^ripples\.jpg/)).toBeVisible()
  await expect(entry(/^evening chord\.wav/)).toHaveCount(0)
  // A search looks everywhere.
  await page.getByLabel('Find footage').fill('evening')
  await expect(entry(/^evening chord\.wav/)).toBeVisible()
  await page.getByLabel('Find footage').fill('')
  await page.getByRole('navigation', { name: 'Folder' }).getByRole('button', { name: 'Footage' }).click()

  // Lost: said on the card and in the details, mended by giving the file again.
  await rm(await originalOf(chord))
  await page.reload()
  await expect(page.getByText('file is missing')).toBeVisible()
  await entry(/^evening chord\.wav/).click()
  await expect(page.getByText('is missing from the data folder')).toBeVisible()
  await chooseFiles(page, () => page.getByRole('button', { name: 'Give it the file again' }).click(), path)
  await expect(page.getByText('file is missing')).toHaveCount(0)
  expect(readFileSync(await originalOf(chord)).equals(readFileSync(path))).toBe(true)
  const state = await studio.call<ProjectState>(`/projects/${id}`)
  // Given again, not added beside.
  expect(
    Object.values(state.project.assets)
      .map((asset) => asset.name)
      .sort(),
  ).toEqual(['evening chord.wav', 'ripples.jpg'])
})

test('files dropped from the desktop onto a track are read in and placed there', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Dropped', 640, 360, { num: 25, den: 1 })
  const bytes = readFileSync(song(join(folder(), 'dropped chord.wav'))).toString('base64')
  await page.goto(`/projects/${id}`)
  const body = page.getByTestId('timeline-body')
  await body.waitFor()
  const box = (await body.boundingBox())!
  const files = await page.evaluateHandle((text) => {
    const transfer = new DataTransfer()
    const data = Uint8Array.from(atob(text), (character) => character.charCodeAt(0))
    transfer.items.add(new File([data], 'dropped chord.wav', { type: 'audio/wav' }))
    return transfer
  }, bytes)
  const at = { clientX: box.x + 40, clientY: box.y + 120, bubbles: true, cancelable: true, dataTransfer: files }
  for (const kind of ['dragenter', 'dragover', 'dragover', 'drop']) {
    await body.dispatchEvent(kind, at)
    await page.waitForTimeout(100)
  }
  await expect(page.getByText('is placed as soon as it is read in')).toBeVisible()
  await expect(body.locator('[data-clip]')).toHaveCount(1)
  // It shows at once, and is kept a moment later.
  await expect
    .poll(async () => Object.keys((await studio.call<ProjectState>(`/projects/${id}`)).project.clips))
    .toHaveLength(1)
})
