import { readdirSync, readFileSync, statfsSync, truncateSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { Studio } from './tools/api'
import { ffmpeg, folder } from './tools/media'

/** Begins an upload by the tus protocol, and sends none of its bytes. */
function beginUpload(origin: string, headers: Record<string, string>, size: number, metadata: Record<string, string>) {
  const pairs = Object.entries(metadata).map(([key, value]) => `${key} ${Buffer.from(value).toString('base64')}`)
  const about = { 'upload-length': String(size), 'upload-metadata': pairs.join(',') }
  return fetch(`${origin}/api/uploads`, { method: 'POST', headers: { ...headers, ...about } })
}

test('a file for which the disk has no room is refused before it is sent', async ({ baseURL }) => {
  const studio = new Studio(baseURL!)
  const { bavail, bsize } = statfsSync(process.env.DUSK_MEDIA!)
  const size = Math.min(bavail * bsize * 2, 255 * 1024 ** 3)
  const id = await studio.createProject('No room', 1280, 720, { num: 25, den: 1 })
  const metadata = { assetId: crypto.randomUUID(), fileName: 'whole-night.mp4', windowId: 'test', projectId: id }
  const refused = await beginUpload(baseURL!, { ...studio.headers, 'tus-resumable': '1.0.0' }, size, metadata)
  // A disk may have room for the largest file that is taken at all.
  if (size < bavail * bsize) return expect(refused.status).toBe(201)
  expect(refused.status).toBe(507)
  expect(await refused.text()).toMatch(/“whole-night.mp4” has \d+ MB, and the disk of the studio has room for \d+ MB/)
})

test('files that can’t be used say why, and the good one beside them comes in', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  const at = (name: string) => join(dir, name)
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=30:d=2', '-c:v', 'libx264', '-pix_fmt', 'yuv420p', at('good.mp4'))
  writeFileSync(at('empty.mp4'), '')
  writeFileSync(at('letter.mp4'), 'Dear harbour master, the lanterns are ready. '.repeat(500))
  writeFileSync(
    at('list.m3u8'),
    '#EXTM3U\n#EXT-X-VERSION:3\n#EXT-X-TARGETDURATION:9\n#EXTINF:9,\n/etc/passwd\n#EXT-X-ENDLIST\n',
  )
  writeFileSync(at('cut.mp4'), readFileSync(at('good.mp4')))
  truncateSync(at('cut.mp4'), 15_000)
  const id = await studio.createProject('Odd files', 1280, 720, { num: 25, den: 1 })
  await page.goto(`/projects/${id}`)
  await page
    .getByLabel('Files to add')
    .setInputFiles(['good.mp4', 'empty.mp4', 'letter.mp4', 'list.m3u8', 'cut.mp4'].map(at))
  await expect(page.getByRole('button', { name: /^good.mp4/ })).toBeVisible()
  await expect(page.getByText('The file is empty (0 bytes)')).toBeVisible()
  await expect(page.getByText('This is not a video, sound or picture file')).toBeVisible()
  await expect(page.getByText('a list that points to other files')).toBeVisible()
  await expect(page.getByText('The end of this file is missing')).toBeVisible()
  // Nothing of them is left behind, and the list can be cleared. What others send meanwhile is no business of this.
  const uploads = join(process.env.DUSK_MEDIA!, 'uploads')
  const left = () =>
    readdirSync(uploads)
      .filter((name) => name.endsWith('.json'))
      .filter((name) => {
        try {
          return readFileSync(join(uploads, name), 'utf8').includes(id)
        } catch {
          return false
        }
      })
  await expect.poll(left).toEqual([])
  await page.getByRole('button', { name: 'Take letter.mp4 off the list' }).click()
  await expect(page.getByText('letter.mp4')).toHaveCount(0)
})

test('a file whose last bytes came just before the studio was killed comes in when it is asked for', async ({
  baseURL,
}) => {
  const studio = new Studio(baseURL!)
  const path = join(folder(), 'last-bytes.mp4')
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=30:d=2', '-c:v', 'libx264', '-pix_fmt', 'yuv420p', path)
  const bytes = readFileSync(path)
  const id = await studio.createProject('Last bytes', 1280, 720, { num: 25, den: 1 })
  const assetId = crypto.randomUUID()
  const metadata = { assetId, fileName: 'last-bytes.mp4', windowId: 'test', projectId: id }
  const tus = { ...studio.headers, 'tus-resumable': '1.0.0' }
  const created = await beginUpload(baseURL!, tus, bytes.length, metadata)
  expect(created.status).toBe(201)
  const at = new URL(created.headers.get('location')!, baseURL)
  // All of it was written, and nothing was done with it.
  writeFileSync(join(process.env.DUSK_MEDIA!, 'uploads', at.pathname.split('/').at(-1)!), bytes)
  const asked = await fetch(at, { method: 'HEAD', headers: tus })
  expect([asked.status, asked.headers.get('upload-offset')]).toEqual([200, String(bytes.length)])
  await studio.ready(id, [assetId])
})
