import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { TICKS_PER_SECOND } from '@dusk/timeline'
import { openBrowser } from './browser'
import { buildRenderer, buildStudio } from './build'
import { loadDemo } from './demo'
import { browserState } from './enter'
import { ROOT, type Options } from './options'
import { makeStock } from './stock'
import {
  boardPortFor,
  end,
  localStudio,
  openDatabase,
  serviceEnv,
  startBoard,
  startStudio,
  startWorker,
  waitFor,
} from './processes'

/** Takes the pictures of the documentation at 1280 × 800, from the demo as it comes: in a data folder of their own. */
export async function run(options: Options): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'dusk-shots-'))
  const cluster = await openDatabase(data)
  await Promise.all([buildStudio(), buildRenderer(), makeStock()])
  const client = localStudio(data, options.port)
  const { origin } = client
  const env = serviceEnv(cluster, data, options.port, await boardPortFor(options.port))
  const studio = startStudio(env)
  await waitFor(client, studio)
  const worker = startWorker(env)
  const board = startBoard(env)
  const browser = await openBrowser('--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream')
  const page = await browser.newPage({
    viewport: { width: 1280, height: 800 },
    storageState: await browserState(client),
  })
  /** Waits until the viewer shows a picture; with `tick`, that one. */
  const shown = (tick: number | null) =>
    page.waitForFunction((wanted) => {
      const at = Number(document.querySelector('[data-shown-tick]')?.getAttribute('data-shown-tick') ?? -1)
      return wanted === null ? at >= 0 : at === wanted
    }, tick)
  const shot = async (name: string) => page.screenshot({ path: join(ROOT, 'docs/screenshots', `${name}.png`) })
  try {
    await loadDemo(client, cluster.url)
    const get = <T>(path: string) => client.json<T>(`/api${path}`)
    const { projects } = await get<{ projects: { id: string; name: string }[] }>('/projects')
    const id = (word: string) => projects.find((entry) => entry.name.includes(word))!.id
    for (const project of projects)
      while (
        Object.values(
          (await get<{ sources: Record<string, { state: string }> }>(`/projects/${project.id}`)).sources,
        ).some((source) => source.state !== 'ready')
      )
        await new Promise((resolve) => setTimeout(resolve, 500))
    mkdirSync(join(ROOT, 'docs/screenshots'), { recursive: true })
    await page.goto(origin)
    await page.waitForTimeout(4000)
    await shot('projects')
    await page.goto(`${origin}/projects/${id('Lantern')}`)
    await shown(null)
    const position = page.getByLabel(/^Position\./)
    /** Brings the playhead to a place, as it is typed. */
    const goTo = async (place: string) => {
      await position.fill(place)
      await position.press('Enter')
    }
    await goTo('8s')
    await page
      .getByTestId('timeline-body')
      .getByRole('button', { name: /^boats-drifting.* on Picture 1/ })
      .click()
    await shown(8 * TICKS_PER_SECOND)
    // What is told of the demo's frame rates, once, would lie over its tracks.
    await page.getByRole('button', { name: 'Close this message' }).click()
    await page.waitForTimeout(2500)
    await shot('desk')
    await goTo('6s')
    await page.getByRole('button', { name: 'Transitions', exact: true }).click()
    await page.getByRole('button', { name: /^Dissolve, 1\.20/ }).click()
    await page.waitForTimeout(6000)
    await shot('transitions')
    await page.getByRole('button', { name: 'Titles', exact: true }).click()
    await goTo('3s')
    await page
      .getByTestId('timeline-body')
      .getByRole('button', { name: /^Lantern Night on/ })
      .click()
    await page.waitForTimeout(7000)
    await shot('titles')
    await page.getByRole('button', { name: 'Footage', exact: true }).click()
    await goTo('33.4s')
    await page
      .getByTestId('timeline-body')
      .getByRole('button', { name: /^last-light.* on Picture 1/ })
      .click({ position: { x: 50, y: 40 } })
    await page.waitForTimeout(2500)
    await shot('keyframes')
    await page.getByRole('button', { name: /^boats-drifting\.mp4, video/ }).dblclick()
    await page.getByTestId('source-strip').waitFor()
    for (const [place, key] of [
      ['1.5s', 'i'],
      ['5s', 'o'],
    ] as const) {
      await goTo(place)
      await page.keyboard.press(key)
    }
    await page.waitForTimeout(2500)
    await shot('source')
    await page.getByRole('button', { name: 'Back to the reel' }).click()
    // The clip is selected still, with its keyframes beneath the timeline.
    await page.locator('body').press('Escape')
    await page.getByRole('button', { name: 'Storyboard' }).click()
    await page.waitForTimeout(1500)
    await shot('storyboard')
    await page.getByRole('button', { name: 'Storyboard' }).click()
    await page.getByRole('button', { name: 'Stock', exact: true }).click()
    await page.waitForTimeout(2500)
    await shot('stock')
    await page.getByRole('navigation', { name: 'Drawers' }).getByRole('button', { name: 'Sound' }).click()
    await page.getByRole('button', { name: 'Mixer' }).click()
    await page
      .getByTestId('timeline-body')
      .getByRole('button', { name: /^keeper-clean-voice.* on Voice/ })
      .click({ position: { x: 20, y: 6 } })
    await page.getByRole('button', { name: 'Clear voice' }).click()
    await page.getByTestId('timeline-body').hover()
    await page.mouse.wheel(0, 400)
    await page.getByRole('region', { name: 'Sound effects' }).scrollIntoViewIfNeeded()
    await goTo('13s')
    await page.keyboard.press('Space')
    await page.waitForTimeout(4000)
    await shot('mixing')
    await page.keyboard.press('Space')
    await page.getByRole('button', { name: 'Remove Equaliser' }).click()
    await page.getByRole('button', { name: 'Mixer' }).click()
    await page.getByTestId('timeline-body').hover()
    await page.mouse.wheel(0, -400)
    await page.getByRole('button', { name: 'Footage', exact: true }).click()
    await page
      .getByTestId('timeline-body')
      .getByRole('button', { name: /^last-light.* on Picture 1/ })
      .click()
    await page.getByRole('button', { name: 'Linger' }).click()
    await page.waitForTimeout(1500)
    await page.getByRole('region', { name: 'Speed' }).scrollIntoViewIfNeeded()
    await page.waitForTimeout(1500)
    await shot('speed')
    await page.getByRole('button', { name: 'One speed for all of it' }).click()
    await goTo('8s')
    await page
      .getByTestId('timeline-body')
      .getByRole('button', { name: /^boats-drifting.* on Picture 1/ })
      .click()
    await page.getByRole('navigation', { name: 'Drawers' }).getByRole('button', { name: 'Effects' }).click()
    const drawer = page.getByRole('region', { name: 'Effects' }).first()
    await drawer.getByLabel('Find an effect').fill('look')
    await page.waitForTimeout(5000)
    await drawer.getByRole('button', { name: 'Lantern gold', exact: true }).click()
    const mask = page.getByRole('region', { name: /^Mask of/ })
    await mask.getByRole('button', { name: 'add' }).click()
    await page.getByRole('menuitem', { name: 'Ellipse' }).click()
    await page.locator('body').press('Shift+Y')
    await page.getByRole('button', { name: 'Remove Look' }).scrollIntoViewIfNeeded()
    await page.waitForTimeout(4000)
    await shot('effects')
    await page.getByRole('button', { name: 'Close the scopes' }).click()
    await page.getByRole('button', { name: 'Remove Look' }).click()
    await page.getByRole('button', { name: 'Footage', exact: true }).click()
    await page.getByRole('button', { name: 'Record onto Voice' }).click()
    await page.getByRole('button', { name: 'Record', exact: true }).click()
    await page.waitForTimeout(3500)
    await shot('recording')
    await page.keyboard.press('Space')
    await page.getByRole('button', { name: 'Put the microphone away' }).first().click()
    await page.keyboard.press('Escape')
    // What the browser's microphone beeped is no part of the demo.
    await page.waitForTimeout(2000)
    await page.locator('body').press('Control+z')
    await page.waitForTimeout(1000)
    await page.getByRole('button', { name: 'Keys', exact: true }).click()
    await page.waitForTimeout(800)
    await shot('shortcuts')
    await page.getByRole('dialog').getByRole('button', { name: 'Done' }).click()
    await page.getByRole('button', { name: 'Render', exact: true }).click()
    // Until enough of its parts are made to say what it comes to.
    await page.getByText(/[\d.]+ MB\. It takes/).waitFor({ timeout: 120_000 })
    await page.waitForTimeout(6000)
    await shot('render')
    await page.getByRole('dialog').getByLabel('Size').click()
    await page
      .getByRole('option', { name: /^854|^852|480$/ })
      .first()
      .click()
    await page.getByRole('button', { name: 'Start rendering' }).click()
    await page.getByText('Checked:').first().waitFor({ timeout: 300_000 })
    await page.getByRole('button', { name: 'What is in it' }).first().click()
    await page
      .getByRole('img', { name: 'Pictures along the film' })
      .evaluate((image: HTMLImageElement) => image.decode())
    await page.waitForTimeout(2000)
    await shot('renders')
    await page.getByRole('button', { name: 'Post', exact: true }).first().click()
    await page.waitForTimeout(2000)
    await page.getByLabel('Tags').fill('harbour, lanterns, night')
    await page.waitForTimeout(1000)
    await shot('posting')
    await page.keyboard.press('Escape')
    await page.goto(`${origin}/disk`)
    await page.waitForTimeout(1500)
    await shot('disk')
    await page.goto(`${origin}/projects/${id('tall')}`)
    await shown(null)
    await page
      .getByTestId('timeline-body')
      .getByRole('button', { name: /^steps-tall.* on Picture 1/ })
      .click()
    await page.waitForTimeout(2500)
    await shot('desk-tall')
  } finally {
    await browser.close()
    await Promise.all([end(worker), end(studio), end(board)])
    await cluster.stop()
    rmSync(data, { recursive: true, force: true })
  }
}
