import { expect, test, type Page } from '@playwright/test'
import { SECOND, Studio, type ProjectState } from './tools/api'
import { faults } from './tools/axe'
import { chooseFiles } from './tools/choose'

const board = () => process.env.DUSK_BOARD!

/** Sets how the place behaves, by the form on its page. */
async function behave(page: Page, mood: string, minutes = '60'): Promise<void> {
  await page.goto(board())
  await page.getByLabel('It behaves so').selectOption(mood)
  await page.getByLabel('Minutes at most').fill(minutes)
  await page.getByRole('button', { name: 'Set' }).click()
  await expect(page.getByLabel('It behaves so')).toHaveValue(mood)
}

test('a finished film is posted, with what is said of it; a place that breaks off is gone on with', async ({
  page,
  context,
  baseURL,
}) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Posted sparks', 640, 360, { num: 25, den: 1 })
  const { project } = await studio.call<ProjectState>(`/projects/${id}`)
  const [reelId] = Object.keys(project.reels)
  const trackId = Object.values(project.tracks).find((track) => track.name === 'Picture 1')!.id
  const sparks = { kind: 'generator', generator: 'sparks', settings: {}, trackId }
  const generated = [{ ...sparks, clipId: crypto.randomUUID(), start: 0, length: 8 * SECOND }]
  await studio.edit(id, { type: 'addGenerated', mode: 'free', generated })
  const marker = (at: number, name: string) => ({
    ...{ id: crypto.randomUUID(), reelId, clipId: null, at: at * SECOND, length: 0, name, note: '', colour: 'moss' },
  })
  await studio.edit(id, { type: 'addMarkers', markers: [marker(4, 'Brighter')] })
  const settings = { width: 640, height: 360, rate: { num: 25, den: 1 }, quality: 'good', range: null, sound: true }
  await studio.call(`/projects/${id}/renders`, 'POST', {
    ...{ reelId, name: 'Sparks to post', settings: { ...settings, title: 'Sparks' } },
  })

  const place = await context.newPage()
  await behave(place, 'breaks', '0.1')
  await page.goto('/renders')
  const card = page.getByRole('article', { name: 'Render Sparks to post' })
  await card.getByRole('button', { name: 'Post', exact: true }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByLabel('Title')).toHaveValue('Sparks')
  await expect(dialog.getByLabel('Chapters')).toHaveValue('0:00 Beginning\n0:04 Brighter')
  expect(await faults(page, '[role=dialog]')).toEqual([])
  const before = dialog.getByRole('list', { name: 'Before it is sent' })
  await expect(before).toContainText('The film lasts 0:08; The practice board takes 0:06.')
  await expect(dialog.getByRole('button', { name: 'Post it' })).toBeDisabled()
  await dialog.getByRole('button', { name: 'Cancel' }).click()

  await behave(place, 'breaks')
  await card.getByRole('button', { name: 'Post', exact: true }).click()
  await dialog.getByLabel('Title').fill('')
  await expect(before).toContainText('It needs a title.')
  await dialog.getByLabel('Title').fill('Sparks over the harbour')
  await dialog.getByLabel('About').fill('Eight seconds of them.')
  await dialog.getByLabel('Tags').fill('sparks, night, sparks')
  await dialog.getByLabel('Chapters').fill('0:00 Beginning\nBrighter')
  await expect(before).toContainText('Chapter 2: it begins with a time')
  await dialog.getByLabel('Chapters').fill('0:00 Beginning\n0:03 Brighter')
  const srt = '1\n00:00:01,000 --> 00:00:02,500\nLook up\n'
  await chooseFiles(page, () => dialog.getByRole('button', { name: 'A WebVTT or SubRip file' }).click(), {
    name: 'words.srt',
    mimeType: 'application/x-subrip',
    buffer: Buffer.from(srt),
  })
  // The picture out of the film follows the slider.
  const picture = dialog.getByRole('img', { name: 'The thumbnail' })
  await dialog.getByLabel('Where in the film the thumbnail is').fill('6')
  await expect(picture).toHaveAttribute('src', /at=6\.00/)
  await expect.poll(() => picture.evaluate((image: HTMLImageElement) => image.naturalHeight)).toBe(360)
  await dialog.getByRole('button', { name: 'Post it' }).click()

  const line = card.getByRole('group', { name: 'Post Sparks over the harbour' })
  await expect(line).toContainText(
    /(broke off half way|was lost)\. It goes on by itself once that is over\. 50 % of it is there already/,
  )
  await behave(place, 'well')
  await expect(line).toContainText('posted')

  const there = context.waitForEvent('page')
  await line.getByRole('link', { name: 'See it there' }).click()
  const film = await there
  await expect(film.getByRole('heading', { name: 'Sparks over the harbour' })).toBeVisible()
  await expect(film.locator('.tags')).toHaveText('sparksnight')
  await film.getByRole('link', { name: '0:03' }).click()
  await expect
    .poll(() => film.locator('video').evaluate((video: HTMLVideoElement) => [video.currentTime, video.duration]))
    .toEqual([3, expect.closeTo(8, 1)])
  const cues = film.locator('video').evaluate(async (video: HTMLVideoElement) => {
    const track = video.textTracks[0]!
    track.mode = 'showing'
    while (!track.cues?.length) await new Promise((resolve) => setTimeout(resolve, 50))
    return Array.from(track.cues, (cue) => [cue.startTime, (cue as VTTCue).text])
  })
  expect(await cues).toEqual([[1, 'Look up']])

  // The line goes away, the film stays where it was posted.
  await line.getByRole('button', { name: /^Forget/ }).click()
  await expect(line).toHaveCount(0)
  await film.reload()
  await film.getByRole('button', { name: 'Take it down' }).click()
  await expect(film.getByText('Nothing was posted yet.')).toBeVisible()
})
