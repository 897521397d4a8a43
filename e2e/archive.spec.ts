import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { FolderStorage } from '@dusk/media'
import { assets, connect } from '@dusk/store'
import { eq } from 'drizzle-orm'
import { parts, piece, Studio, type ProjectState } from './tools/api'
import { chooseFiles } from './tools/choose'
import { flashAndBeep, folder, probe, song } from './tools/media'

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
  writeFileSync(archive, await studio.file(`/api/projects/${id}/archive`))

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

test('a project with a lost file says so before it is saved, and opens again with that said', async ({
  page,
  baseURL,
}) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Lost chord', 320, 180, { num: 25, den: 1 })
  const path = song(join(folder(), 'evening chord.wav'), 233)
  const chord = await studio.upload(id, path)
  const { track } = parts(await studio.ready(id, [chord]))
  await studio.edit(id, { type: 'place', pieces: [piece(track('Music'), chord, 0, 0, 1)], mode: 'free' })
  const connection = connect(process.env.DATABASE_URL!, 1)
  const [row] = await connection.db.select({ hash: assets.hash }).from(assets).where(eq(assets.id, chord))
  await connection.close()
  await rm(new FolderStorage(process.env.DUSK_MEDIA!).original(row!.hash!))

  await page.goto('/')
  await page.getByRole('button', { name: 'More for Lost chord' }).click()
  await page.getByRole('menuitem', { name: 'Save as archive' }).click()
  await expect(page.getByText('The archive would lack the file of evening chord.wav.')).toBeVisible()
  const saving = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save without' }).click()
  const archive = join(folder(), 'lost.duskreel')
  await (await saving).saveAs(archive)

  await page.getByLabel('Archive to open').setInputFiles(archive)
  await expect(page).toHaveURL(/projects\//)
  await expect(page.getByText('The file of evening chord.wav is missing')).toBeVisible()
  // Given its file, it plays in the same clip.
  await page.getByRole('button', { name: 'Give it again' }).click()
  await chooseFiles(page, () => page.getByRole('button', { name: 'Give it the file again' }).click(), path)
  await expect(page.getByText('The file of evening chord.wav is missing')).toHaveCount(0)
  const opened = page.url().split('/').at(-1)!
  await expect
    .poll(async () => Object.values((await studio.call<ProjectState>(`/projects/${opened}`)).project.assets).length)
    .toBe(1)
  const state = await studio.call<ProjectState>(`/projects/${opened}`)
  expect(Object.values(state.project.clips)).toHaveLength(1)
})

/** Numbers that look random and are the same each time. */
function dice(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return state / 2 ** 32
  }
}

test('archives that were spoilt become no project, or a whole one', async ({ baseURL }) => {
  test.setTimeout(1_200_000)
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Spoilt', 320, 180, { num: 25, den: 1 })
  const chord = await studio.upload(id, song(join(folder(), 'spoilt chord.wav'), 277))
  const { track } = parts(await studio.ready(id, [chord]))
  await studio.edit(id, { type: 'place', pieces: [piece(track('Music'), chord, 0, 0, 1)], mode: 'free' })
  const good = await studio.file(`/api/projects/${id}/archive`)
  const names = async () =>
    (await studio.call<{ projects: { id: string; name: string }[] }>('/projects')).projects.map((row) => row.id)
  const before = new Set(await names())
  // Each is another archive, spoilt in another way; ./dusk test --long tries many more.
  let refused = 0
  for (let n = 0; n < (process.env.DUSK_LONG ? 100 : 6); n++) {
    const roll = dice(n)
    const bytes = Buffer.from(good)
    const manifest = bytes.indexOf('"project"')
    if (n % 3 === 0) for (let i = 0; i < 30; i++) bytes[Math.floor(roll() * bytes.length)] = Math.floor(roll() * 256)
    else if (n % 3 === 1 && manifest > 0) bytes[manifest + Math.floor(roll() * 400)] = Math.floor(roll() * 256)
    const spoilt = n % 3 === 2 ? bytes.subarray(0, Math.floor(roll() * bytes.length)) : bytes
    const path = join(folder(), `spoilt-${n}.duskreel`)
    writeFileSync(path, spoilt)
    const answer = await studio.upload(null, path).then(
      () => 'taken',
      (error: Error) => error.message,
    )
    if (answer !== 'taken') refused++
    expect(answer, `archive ${n}`).not.toMatch(/response code: 5\d\d|\/tmp|SELECT|insert into|undefined/)
  }
  expect(refused).toBeGreaterThan(1)
  // What came in can be opened.
  for (const made of (await names()).filter((one) => !before.has(one))) {
    const { project } = await studio.call<ProjectState>(`/projects/${made}`)
    expect(Object.keys(project.reels).length).toBeGreaterThan(0)
  }
})
