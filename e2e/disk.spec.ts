import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { Studio } from './tools/api'
import { ffmpeg, folder } from './tools/media'

test('what takes room is shown, and a project that was put away is removed for good', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Old quay', 640, 360, { num: 25, den: 1 })
  // A file that no other project has.
  const path = join(folder(), 'own.mp4')
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=160x90:d=2', '-metadata', `comment=${id}`, '-pix_fmt', 'yuv420p', path)
  const bars = await studio.upload(id, path)
  await studio.ready(id, [bars])
  await studio.call(`/projects/${id}`, 'DELETE')

  await page.goto('/')
  await page.getByRole('link', { name: 'Room on disk' }).click()
  const away = page.getByRole('list', { name: 'Projects that were put away' }).getByRole('listitem')
  const row = away.filter({ hasText: 'Old quay' })
  await row.getByRole('button', { name: 'Bring it back' }).click()
  await expect(row).toHaveCount(0)
  await expect(page.getByRole('row', { name: /^Old quay/ })).toBeVisible()
  await studio.call(`/projects/${id}`, 'DELETE')
  await page.reload()

  await row.getByRole('button', { name: 'Remove for good' }).click()
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(row).toHaveCount(1)
  await row.getByRole('button', { name: 'Remove for good' }).click()
  await page.getByRole('button', { name: 'Remove it' }).click()
  await expect(page.getByText(/ were freed\.$/)).toBeVisible()
  await expect(row).toHaveCount(0)
  const use = await studio.call<{ projects: { id: string }[] }>('/disk')
  expect(use.projects.map((project) => project.id)).not.toContain(id)

  // One that is there can't be removed this way, nor can what is not named rightly.
  for (const body of [{ what: 'project' }, { what: 'chunks', projectId: id }, { what: 'all' }])
    await expect(studio.call('/disk/free', 'POST', body)).rejects.toThrow('422')
})
