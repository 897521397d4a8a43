import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { parts, piece, Studio } from './tools/api'
import { flashAndBeep, folder, probe } from './tools/media'

test('an archive opens again, and renders from the command line', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  const id = await studio.createProject('Box of lanterns', 640, 360, { num: 25, den: 1 })
  const flash = await studio.upload(id, flashAndBeep(join(dir, 'flash.mp4')))
  const { track } = parts(await studio.ready(id, [flash]))
  const link = crypto.randomUUID()
  await studio.edit(id, {
    type: 'place',
    mode: 'free',
    pieces: [piece(track('Picture 1'), flash, null, 0, 3, 1, link), piece(track('Effects'), flash, 0, 0, 3, 1, link)],
  })
  const archive = join(dir, 'box.duskreel')
  writeFileSync(archive, Buffer.from(await (await fetch(`${baseURL}/api/projects/${id}/archive`)).arrayBuffer()))

  await page.goto('/')
  await page.getByLabel('Archive to open').setInputFiles(archive)
  await page.waitForURL(/projects\//)
  await expect(page.getByRole('button', { name: 'Box of lanterns' })).toBeVisible()
  await expect(page.getByTestId('timeline-body').getByRole('button', { name: /^flash.* on Picture 1/ })).toBeVisible()
  expect(page.url()).not.toContain(id)

  const out = join(dir, 'box.mp4')
  execFileSync('./dusk', ['render', archive, out, '--size', '320x180', '--range', '1s-2s'])
  expect(probe(out).video).toEqual({ frames: 25, start: 0, width: 320, height: 180 })

  // A damaged archive is refused in words.
  const bytes = readFileSync(archive)
  writeFileSync(join(dir, 'half.duskreel'), bytes.subarray(0, bytes.length / 2))
  await page.goto('/')
  await page.getByLabel('Archive to open').setInputFiles(join(dir, 'half.duskreel'))
  await expect(page.getByText('not a .duskreel archive, or its end is missing').first()).toBeVisible()
})
