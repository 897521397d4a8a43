import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { StudioClient } from '../scripts/dusk/client'
import { parts, piece, Studio } from './tools/api'
import { folder, song } from './tools/media'
import { Supervised } from './tools/supervised'

/** A studio process of this test's own, on the same database. */
async function startStudio(port: number): Promise<ChildProcess> {
  const child = spawn('node', ['apps/studio/.output/server/index.mjs'], {
    env: { ...process.env, PORT: String(port), NITRO_PORT: String(port), HOST: '127.0.0.1', NITRO_HOST: '127.0.0.1' },
    stdio: 'ignore',
  })
  for (let i = 0; i < 200; i++) {
    if (
      await fetch(`http://127.0.0.1:${port}/api/health`).then(
        (response) => response.ok,
        () => false,
      )
    )
      return child
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  throw new Error('The studio did not start.')
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number }
      server.close(() => resolve(port))
    })
  })
}

test('edits outlive a killed server, and go on when it is back', async ({ page, baseURL }) => {
  const main = new Studio(baseURL!)
  const dir = folder()
  const id = await main.createProject('Durable', 1280, 720, { num: 25, den: 1 })
  const asset = await main.upload(id, song(join(dir, 'chord.wav')))
  const { track } = parts(await main.ready(id, [asset]))
  const port = await freePort()
  let child = await startStudio(port)
  try {
    const studio = new Studio(`http://127.0.0.1:${port}`)
    // Killed in the middle of many edits: whatever was acknowledged is there afterwards.
    let acknowledged = 0
    const burst = (async () => {
      for (let i = 0; i < 200; i++) {
        const { outcomes } = await studio.edit(id, {
          type: 'place',
          mode: 'free',
          pieces: [piece(track('Music'), asset, 0, i, 0.5)],
        })
        if (outcomes[0]?.seq) acknowledged++
      }
    })().catch(() => {})
    await expect.poll(() => acknowledged, { intervals: [20] }).toBeGreaterThan(30)
    child.kill('SIGKILL')
    await burst
    const kept = Object.keys(
      (await main.call<import('./tools/api').ProjectState>(`/projects/${id}`)).project.clips,
    ).length
    expect(kept).toBeGreaterThanOrEqual(acknowledged)
    expect(kept).toBeLessThanOrEqual(acknowledged + 1)

    // On screen: an edit made while the server is away waits, says so, survives a reload, and is kept once it is back.
    child = await startStudio(port)
    // A studio of its own lets nobody in for having been let into another; who came in stays so over its restarts.
    const { path } = await new StudioClient({ origin: studio.origin, key: process.env.DUSK_KEY! }).link()
    await page.goto(studio.origin + path)
    await page.goto(`${studio.origin}/projects/${id}`)
    await expect(page.getByText('every edit kept')).toBeVisible()
    child.kill('SIGKILL')
    await page.getByRole('button', { name: 'Mute Voice' }).click()
    await expect(page.getByText('1 edit waits for the server')).toBeVisible()
    await expect(page.getByRole('button', { name: 'Mute Voice' })).toHaveAttribute('aria-pressed', 'true')
    child = await startStudio(port)
    await expect(page.getByText(/every edit kept \d/)).toBeVisible()
    await page.reload()
    await expect(page.getByRole('button', { name: 'Mute Voice' })).toHaveAttribute('aria-pressed', 'true')
  } finally {
    child.kill('SIGKILL')
  }
})

test('a database that dies while the studio starts is started again, too', async () => {
  test.setTimeout(240_000)
  const data = mkdtempSync(join(tmpdir(), 'dusk-start-'))
  const run = new Supervised(data, await freePort())
  run.start()
  try {
    await expect.poll(() => run.log.some((line) => line.includes('Tables up to date')), { timeout: 120_000 }).toBe(true)
    expect(run.kill('database')).toBe(true)
    // What waits for the studio would give up after a minute.
    await run.up(120)
    expect(run.log.join('\n')).not.toContain('did not answer')
  } finally {
    await run.stop()
    rmSync(data, { recursive: true, force: true })
  }
})

test('two windows see each other’s edits', async ({ page, context, baseURL }) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Two windows', 1280, 720, { num: 25, den: 1 })
  const other = await context.newPage()
  await page.goto(`/projects/${id}`)
  await other.goto(`/projects/${id}`)
  await expect(other.getByRole('button', { name: 'Solo Music' })).toBeVisible()
  await page.getByRole('button', { name: 'Solo Music' }).click()
  await expect(other.getByRole('button', { name: 'Solo Music' })).toHaveAttribute('aria-pressed', 'true')
  // The other window can't take back what this one did, and says nothing of it; this one can.
  await expect(other.getByRole('button', { name: 'Undo' })).toBeDisabled()
  await page.keyboard.press('Control+z')
  await expect(other.getByRole('button', { name: 'Solo Music' })).toHaveAttribute('aria-pressed', 'false')
})
