import { spawn, type ChildProcess } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { expect, test, type Browser } from '@playwright/test'
import { sealPassphrase } from '../apps/studio/server/utils/passphrase'
import { StudioClient } from '../scripts/dusk/client'
import { freePort } from '../scripts/dusk/cluster'
import { networkOf, passphraseFile } from '../scripts/dusk/network'
import { parseOptions } from '../scripts/dusk/options'
import { Studio } from './tools/api'
import { folder } from './tools/media'

const KEY = process.env.DUSK_KEY!
/** A browser that nobody let in. */
const stranger = (browser: Browser, ignoreHTTPSErrors = false) =>
  browser.newContext({ storageState: { cookies: [], origins: [] }, ignoreHTTPSErrors })

/** How a WebSocket of a page to its studio goes. */
const live = () =>
  new Promise<string>((resolve) => {
    const socket = new WebSocket(`${location.origin.replace('http', 'ws')}/api/live`)
    socket.onopen = () => resolve('open')
    socket.onerror = () => resolve('refused')
  })

test('a browser is let in by a link, once; others see how to get one', async ({ browser, baseURL }) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Locked', 640, 360, { num: 25, den: 1 })
  const context = await stranger(browser)
  const page = await context.newPage()
  await page.goto(`${baseURL}/projects/${id}`)
  await expect(page.getByRole('heading', { name: 'This browser has no key yet' })).toBeVisible()
  await expect(page.getByText('./dusk open')).toBeVisible()
  // Nothing but that page: neither what is asked for, nor what is pushed.
  for (const path of [`/api/projects/${id}`, `/api/media/${'0'.repeat(64)}/original`, '/api/nowhere'])
    expect([path, await page.evaluate(async (url) => (await fetch(url)).status, path)]).toEqual([path, 401])
  expect(await page.evaluate(live)).toBe('refused')

  const { path } = await new StudioClient({ origin: baseURL!, key: KEY }).link()
  await page.goto(baseURL + path)
  await expect(page.getByRole('link', { name: 'Open Locked' })).toBeVisible()
  expect(await page.evaluate(live)).toBe('open')
  // What was asked for before it was let in is opened after.
  await page.goto(`${baseURL}/enter?to=/projects/${id}`)
  await expect(page.getByTestId('timeline-body')).toBeVisible()

  const other = await stranger(browser)
  const late = await other.newPage()
  await late.goto(baseURL + path)
  await expect(late.getByRole('alert')).toHaveText('That link was used already, or is too old.')
  await context.close()
  await other.close()
})

test('an address without a page says so, and leads back to the projects', async ({ page }) => {
  const broken: string[] = []
  page.on('console', (message) => message.text().includes('Content Security Policy') && broken.push(message.text()))
  await page.goto('/no/such-page')
  await expect(page.getByRole('heading', { name: 'There is no such page' })).toBeVisible()
  expect(broken).toEqual([])
  await page.getByRole('link', { name: 'To the projects' }).click()
  await expect(page.getByRole('heading', { name: 'There is no such page' })).toHaveCount(0)
  await expect(page).toHaveURL('/')
})

test('on the network it speaks TLS and asks for the passphrase', async ({ browser }) => {
  const data = folder()
  writeFileSync(passphraseFile(data), await sealPassphrase('nine lanterns on the quay'))
  const port = await freePort()
  const network = await networkOf(
    parseOptions('start', ['--data', data, '--port', String(port), '--host', '127.0.0.2']),
  )
  const ports = { PORT: String(port), NITRO_PORT: String(port) }
  const child: ChildProcess = spawn('node', ['apps/studio/.output/server/index.mjs'], {
    env: { ...process.env, ...ports, ...network.env },
    stdio: 'ignore',
  })
  try {
    const client = new StudioClient({ origin: network.origin, key: KEY, certificate: network.certificate })
    await expect.poll(() => client.answers()).toBe(true)
    const plain = await fetch(`http://127.0.0.2:${port}/api/health`).then(
      () => 'answered',
      () => 'refused',
    )
    expect(plain).toBe('refused')
    const context = await stranger(browser, true)
    const page = await context.newPage()
    await page.goto(`${network.origin}/renders`)
    const field = page.getByLabel('Or type the passphrase of this studio')
    await field.fill('ten lanterns on the quay')
    await field.press('Enter')
    await expect(page.getByRole('alert')).toHaveText('That is not the passphrase of this studio.')
    await field.fill('nine lanterns on the quay')
    await page.getByRole('button', { name: 'Enter' }).click()
    await expect(page.getByRole('heading', { name: 'Renders' })).toBeVisible()
    expect(await page.evaluate(() => [isSecureContext, crossOriginIsolated])).toEqual([true, true])
    expect(await page.evaluate(live)).toBe('open')
    expect((await context.cookies())[0]).toMatchObject({ httpOnly: true, secure: true, sameSite: 'Lax' })
    await context.close()
  } finally {
    child.kill('SIGKILL')
  }
})
