import { expect as patient, test, type Page } from '@playwright/test'
import { parts, Studio, type ProjectState } from './tools/api'

/** Recordings are sent and read in before they lie on their track. */
const expect = patient.configure({ timeout: 30_000 })

const SECOND = 705_600_000

interface Clip {
  id: string
  assetId: string
  trackId: string
  start: number
  length: number
  map: { source: number }
  takes?: { assetId: string; source: number }[]
}
type Project = ProjectState['project'] & {
  clips: Record<string, Clip>
  assets: Record<string, { name: string; sounds: { channels: number; length: number }[] }>
}

/** An empty reel on the desk, with a count-in. */
async function emptyDesk(page: Page, baseURL: string, countIn: number) {
  const studio = new Studio(baseURL)
  const id = await studio.createProject('Voices', 640, 360, { num: 30, den: 1 })
  await studio.call('/settings/recording', 'PATCH', { changes: [{ path: ['countIn'], value: countIn }] })
  const { track } = parts(await studio.ready(id, []))
  await page.goto(`/projects/${id}`)
  await expect(page.getByRole('region', { name: 'Viewer' })).toBeVisible()
  const read = async () => (await studio.call<{ project: Project }>(`/projects/${id}`)).project
  return { studio, id, track, read }
}

/** Records until so many seconds of the reel have played: on a busy machine it stands still now and then. */
async function record(page: Page, seconds: number): Promise<void> {
  await page.getByRole('button', { name: 'Record', exact: true }).click()
  const ribbon = page.getByTestId('recording')
  await expect(ribbon.getByText('Recording', { exact: true })).toBeVisible()
  const recorded = async () => Number.parseFloat(await page.getByTestId('recorded').innerText())
  await expect.poll(recorded, { intervals: [100] }).toBeGreaterThanOrEqual(seconds)
  await page.getByRole('button', { name: 'Stop and keep' }).click()
  await expect(page.getByRole('button', { name: 'Record', exact: true })).toBeVisible()
}

/** Highest sample of a recording, as the desk and the renderer read it. */
async function peakOf(studio: Studio, projectId: string, assetId: string): Promise<number> {
  const { sources } = await studio.ready(projectId, [assetId])
  const [sound] = (sources[assetId] as unknown as { sounds: { url: string }[] }).sounds
  const { buffer } = new Uint8Array(await studio.file(sound!.url))
  const samples = new Float32Array(buffer.slice(32))
  return samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0)
}

test('a voice is recorded onto its track, again as another take, and either is played', async ({ page, baseURL }) => {
  const { studio, id, track, read } = await emptyDesk(page, baseURL!, 0)
  await page.getByRole('button', { name: 'Record onto Voice' }).click()
  // The fake microphone beeps: its level is seen before anything is recorded.
  const level = page.getByRole('meter', { name: 'Level of the microphone' })
  await expect.poll(async () => Number(await level.getAttribute('aria-valuenow'))).toBeGreaterThan(-40)
  await record(page, 2)
  await expect.poll(async () => Object.values((await read()).clips)).toHaveLength(1)
  const first = Object.values((await read()).clips)[0]!
  expect(first).toMatchObject({ trackId: track('Voice'), start: 0 })
  expect(first.length / SECOND).toBeGreaterThan(1.5)
  expect(first.length / SECOND).toBeLessThan(5)
  expect((await read()).assets[first.assetId]).toMatchObject({ name: 'Voice 1.wav', sounds: [{ channels: 1 }] })
  expect(await peakOf(studio, id, first.assetId)).toBeGreaterThan(0.01)

  await record(page, 2)
  await expect(async () => expect(Object.values((await read()).clips)[0]!.takes).toHaveLength(2)).toPass()
  expect(Object.keys((await read()).clips)).toEqual([first.id])
  await page.getByRole('button', { name: 'Put the microphone away' }).first().click()
  await page.locator(`[data-clip="${first.id}"]`).click({ position: { x: 20, y: 8 } })
  await expect(page.getByRole('radio', { name: 'Voice 2' })).toHaveAttribute('aria-checked', 'true')
  await page.getByRole('radio', { name: 'Voice 1' }).click()
  await expect(async () => expect((await read()).clips[first.id]!.assetId).toBe(first.assetId)).toPass()
})

test('a marked part is recorded into and out of, and what lay there stays as a take', async ({ page, baseURL }) => {
  const { read } = await emptyDesk(page, baseURL!, 1)
  await page.getByRole('button', { name: 'Record onto Voice' }).click()
  await record(page, 4)
  const before = Object.values((await read()).clips)[0]!
  // A second is marked in the middle of it.
  await page.evaluate(() => document.body.focus())
  for (const [steps, key] of [
    [1, 'i'],
    [1, 'o'],
  ] as const) {
    for (let i = 0; i < steps * 3; i++) await page.keyboard.press('Shift+ArrowRight')
    await page.keyboard.press(key)
  }
  await page.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(page.getByTestId('recording').getByText('Recording soon')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Record', exact: true })).toBeVisible()
  await expect(async () => expect(Object.keys((await read()).clips)).toHaveLength(3)).toPass()
  const clips = Object.values((await read()).clips).sort((a, b) => a.start - b.start)
  expect(clips[1]!.takes).toHaveLength(2)
  expect(clips[1]!.start).toBeGreaterThan(before.start)
  expect(clips[2]!.start).toBe(clips[1]!.start + clips[1]!.length)
  expect([clips[0]!.assetId, clips[2]!.assetId]).toEqual([before.assetId, before.assetId])
  // The run-in of a second and the delay lie before what is heard.
  expect(clips[1]!.map.source).toBeGreaterThanOrEqual(SECOND)
  expect(clips[1]!.map.source).toBeLessThan(SECOND * 1.5)
})

test('what was said before the page was closed is offered again and kept', async ({ page, baseURL }) => {
  const { id, track, read, studio } = await emptyDesk(page, baseURL!, 0)
  await page.getByRole('button', { name: 'Record onto Voice' }).click()
  await page.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(page.getByTestId('recording').getByText('Recording', { exact: true })).toBeVisible()
  const shown = async () => parseFloat((await page.getByTestId('recorded').textContent())!)
  await expect.poll(shown).toBeGreaterThan(2.5)
  const said = await shown()
  await page.reload()
  await expect(page.getByText('was being recorded when the page was closed')).toBeVisible()
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(async () => expect(Object.keys((await read()).clips)).toHaveLength(1)).toPass()
  const clip = Object.values((await read()).clips)[0]!
  expect(clip).toMatchObject({ trackId: track('Voice'), start: 0 })
  // Up to the moment at which the page went away, but for what was still on its way from the microphone.
  expect(clip.length / SECOND).toBeGreaterThan(said - 0.3)
  expect(await peakOf(studio, id, clip.assetId)).toBeGreaterThan(0.01)
  await page.reload()
  await expect(page.getByRole('region', { name: 'Viewer' })).toBeVisible()
  await expect(page.getByText('was being recorded when the page was closed')).toBeHidden()
})

test('a refused microphone, and one that goes away, are said in words', async ({ page, baseURL }) => {
  await page.addInitScript(() => {
    const open = navigator.mediaDevices.getUserMedia.bind(navigator.mediaDevices)
    const tries = { n: 0 }
    navigator.mediaDevices.getUserMedia = async (wanted) => {
      if (tries.n++ === 0) throw new DOMException('no', 'NotAllowedError')
      const stream = await open(wanted)
      Object.assign(window, { unplug: () => stream.getAudioTracks()[0]!.onended?.(new Event('ended')) })
      return stream
    }
  })
  const { read } = await emptyDesk(page, baseURL!, 0)
  const arm = page.getByRole('button', { name: 'Record onto Voice' })
  await arm.click()
  await expect(page.getByText('The browser may not use the microphone')).toBeVisible()
  await expect(page.getByTestId('recording')).toBeHidden()
  await arm.click()
  await page.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(page.getByTestId('recording').getByText('Recording', { exact: true })).toBeVisible()
  await page.waitForTimeout(1500)
  await page.evaluate(() => (window as unknown as { unplug(): void }).unplug())
  await expect(page.getByText('What was recorded until then is kept')).toBeVisible()
  await expect(async () => expect(Object.keys((await read()).clips)).toHaveLength(1)).toPass()
})
