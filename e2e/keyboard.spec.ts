import { join } from 'node:path'
import { expect as patient, test, type Page } from '@playwright/test'
import { colourBars, folder, song } from './tools/media'
import { Studio, type ProjectState } from './tools/api'
import { chooseFiles } from './tools/choose'

/** What is done on the page is in the document within seconds. */
const expect = patient.configure({ timeout: 30_000 })

/** What has the focus, as it is called. */
const focused = (page: Page) =>
  page.evaluate(() => {
    const element = document.activeElement
    if (!element) return ''
    const labelled = (element.getAttribute('aria-labelledby') ?? '').split(' ')
    const labels = labelled.map((id) => document.getElementById(id)?.textContent ?? '')
    return (
      element.getAttribute('aria-label') ??
      (labels.join(' ').trim() || (element as HTMLInputElement).labels?.[0]?.textContent || element.textContent || '')
    ).trim()
  })

/** Goes on with Tab, or back, until something called so has the focus. */
async function tabTo(page: Page, name: RegExp, key: 'Tab' | 'Shift+Tab' = 'Tab'): Promise<void> {
  const passed: string[] = []
  for (let i = 0; i < 150; i++) {
    await page.keyboard.press(key)
    const now = await focused(page)
    if (name.test(now)) return
    passed.push(now.slice(0, 30))
  }
  throw new Error(`${name} is not reached by ${key}. Passed: ${passed.join(' | ')}`)
}

test('a first film is made from new project to finished file with the keyboard alone', async ({ page, baseURL }) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  const [bars, tune] = [colourBars(join(dir, 'bars.mp4')), song(join(dir, 'chord.wav'))]
  await page.goto('/')
  await page.getByRole('button', { name: 'New project' }).waitFor()
  await tabTo(page, /^New project/)
  await page.keyboard.press('Enter')
  await page.getByRole('heading', { name: 'New project' }).waitFor()
  await tabTo(page, /^Name/)
  await page.keyboard.type('By hand')
  await page.keyboard.press('Enter')
  await page.waitForURL(/\/projects\//)
  const id = page.url().split('/').pop()!
  type Document = ProjectState['project'] & {
    clips: Record<string, { kind: string; start: number; length: number; stream: number | null }>
  }
  const clips = async () =>
    Object.values((await studio.call<{ project: Document }>(`/projects/${id}`)).project.clips).filter(
      (clip) => clip.stream === null,
    )

  await page.getByRole('button', { name: 'Add files' }).waitFor()
  await tabTo(page, /^Add files/)
  await chooseFiles(page, () => page.keyboard.press('Enter'), [bars, tune])
  await page.getByRole('button', { name: /^bars\.mp4, video/ }).waitFor()
  await expect
    .poll(async () => Object.keys((await studio.call<ProjectState>(`/projects/${id}`)).project.assets))
    .toHaveLength(2)

  // Twice to the end of the reel.
  await tabTo(page, /^bars\.mp4, video/)
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await clips()).length).toBe(1)
  expect(await focused(page)).toMatch(/^bars\.mp4/)
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await clips()).length).toBe(2)

  // A cut one second in; what is before it goes, and the rest moves up.
  await page.keyboard.press('Home')
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('x')
  await expect.poll(async () => (await clips()).length).toBe(3)
  await tabTo(page, /^bars\.mp4 on Picture 1/)
  await page.keyboard.press('Enter')
  await page.keyboard.press('Backspace')
  await expect.poll(async () => (await clips()).length).toBe(2)
  // The focus stays where the work is done.
  await expect.poll(() => focused(page)).toMatch(/Timeline|bars\.mp4 on Picture 1/)

  // A title over the beginning.
  await page.keyboard.press('Home')
  await page.keyboard.press('q')
  await page.getByRole('textbox', { name: 'Words of the title' }).first().waitFor()
  await expect.poll(() => focused(page)).toBe('Words of the title')
  await page.keyboard.type('Lanterns')
  await page.keyboard.press('Escape')
  await expect.poll(async () => (await clips()).filter(({ kind }) => kind === 'title').length).toBe(1)
  expect(await focused(page)).not.toBe('')

  await tabTo(page, /^Render$/)
  await page.keyboard.press('Enter')
  await page.getByRole('heading', { name: 'Render', exact: true }).waitFor()
  await tabTo(page, /^Start rendering/)
  await page.keyboard.press('Enter')
  await page.waitForURL(/\/renders/)
  // Renders of other projects may stand below it: the newest comes first, for Tab too.
  const card = page.getByRole('article', { name: 'Render By hand' })
  await expect(card.getByText('Checked:')).toBeVisible({ timeout: 120_000 })
  await tabTo(page, /^Download/)
  const download = page.waitForEvent('download')
  await page.keyboard.press('Enter')
  expect((await download).suggestedFilename()).toBe('By hand.mp4')
})
