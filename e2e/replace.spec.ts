import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { parts, piece, SECOND, Studio, type ProjectState } from './tools/api'
import { chooseFiles } from './tools/choose'
import { ffmpeg, flashAndBeep, folder } from './tools/media'

test('a shorter file without sound says what it would cost, is used, taken back and done again', async ({
  page,
  baseURL,
}) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Another file', 640, 360, { num: 25, den: 1 })
  const dir = folder()
  const first = await studio.upload(id, flashAndBeep(join(dir, 'quay.mp4')))
  const { track } = parts(await studio.ready(id, [first]))
  const link = crypto.randomUUID()
  const picture = piece(track('Picture 1'), first, null, 1, 5, 1, link)
  const sound = piece(track('Voice'), first, 0, 1, 5, 1, link)
  await studio.edit(id, { type: 'place', pieces: [picture, sound], mode: 'free' })
  // Another rate than the reel's, and half as long.
  const short = join(dir, 'quay without sound.mp4')
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=1280x720:r=30000/1001:d=3', '-c:v', 'libx264', '-preset', 'ultrafast', short)

  await page.goto(`/projects/${id}`)
  await page
    .getByTestId('footage-list')
    .getByRole('button', { name: /^quay\.mp4/ })
    .click()
  await chooseFiles(page, () => page.getByRole('button', { name: 'Replace file' }).click(), short)
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('quay without sound.mp4 holds less than quay.mp4')
  await expect(dialog).toContainText('quay.mp4 ends 2.96 s earlier')
  await expect(dialog).toContainText('the sound of quay.mp4 goes')
  if (process.env.DUSK_LOOK) await page.screenshot({ path: process.env.DUSK_LOOK })
  await dialog.getByRole('button', { name: 'Use it all the same' }).click()

  const clips = async () => {
    const { project } = await studio.call<ProjectState>(`/projects/${id}`)
    return Object.values(project.clips).map(({ assetId, start, length }) => [assetId === first, start, length])
  }
  // The last of 90 frames at 29.97 ends a hair after second 3: the reel's frame there still shows it.
  const used = [[false, SECOND, Math.round(2.04 * SECOND)]]
  await expect.poll(clips).toEqual(used)
  await page.keyboard.press('Control+z')
  await expect.poll(clips).toEqual([
    [true, SECOND, 5 * SECOND],
    [true, SECOND, 5 * SECOND],
  ])
  await expect(dialog).toHaveCount(0)
  await page.keyboard.press('Control+Shift+z')
  await expect.poll(clips).toEqual(used)
  await page.reload()
  await expect(page.getByTestId('footage-list').getByRole('button', { name: /^quay\.mp4/ })).toHaveCount(1)
  await expect(dialog).toHaveCount(0)
})
