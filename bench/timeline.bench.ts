import { sameData, type CommandInput } from '@dusk/timeline'
import { commandTimes, manyClips, measureDesk, pageHeap } from './desk'
import { median } from './table'

/** A reel of a hundred tracks and five thousand clips: opening it, moving about in it, editing it, undoing for long. */
await measureDesk('timeline, 100 tracks and 5,000 clips', 4873, async (desk, rows) => {
  const { api, page, origin, errors } = desk
  const second = 705_600_000

  /** Frames a second while something goes on, by the browser's own frame times: the middle, the slowest twentieth. */
  async function frames(what: string, act: () => Promise<void>): Promise<void> {
    // As text: a helper that the TypeScript runner adds to named functions is not there in the page.
    await page.evaluate(
      `(() => {
      const times = []
      const tick = (now) => { times.push(now); if (!window.stopFrames) requestAnimationFrame(tick) }
      Object.assign(window, { stopFrames: false, frameTimes: times })
      requestAnimationFrame(tick)
    })()`,
    )
    await act()
    const times = await page.evaluate(() => {
      ;(window as { stopFrames?: boolean }).stopFrames = true
      return (window as unknown as { frameTimes: number[] }).frameTimes
    })
    const gaps = times
      .slice(1)
      .map((time, i) => time - times[i]!)
      .sort((a, b) => a - b)
    rows.push([`${what}, frames a second`, 1000 / median(gaps)])
    rows.push(['… slowest twentieth', 1000 / gaps[Math.floor(gaps.length * 0.95)]!])
  }

  const { id, pieces } = await manyClips(desk, 95, 5000)

  const openings: number[] = []
  for (let i = 0; i < 3; i++) {
    await page.goto('about:blank')
    const began = performance.now()
    await page.goto(`${origin}/projects/${id}`, { waitUntil: 'commit' })
    await page.locator('[data-testid="timeline-body"] [data-clip]').first().waitFor()
    openings.push(performance.now() - began)
  }
  rows.push(['opening 5,000 clips, ms (2000 at most)', median(openings)])

  const body = (await page.getByTestId('timeline-body').boundingBox())!
  const middle = { x: body.x + body.width / 2, y: body.y + body.height / 2 }
  await page.mouse.move(middle.x, middle.y)
  for (let i = 0; i < 10; i++) await page.keyboard.press('+')
  await page.waitForTimeout(1500)
  await frames('scrolling along', async () => {
    for (let i = 0; i < 120; i++) {
      await page.mouse.wheel(40, 0)
      await page.waitForTimeout(8)
    }
  })
  await frames('scrolling through 100 tracks', async () => {
    for (let i = 0; i < 120; i++) {
      await page.mouse.wheel(0, i < 60 ? 60 : -60)
      await page.waitForTimeout(8)
    }
  })
  await page.keyboard.down('Control')
  await frames('zooming', async () => {
    for (let i = 0; i < 120; i++) {
      await page.mouse.wheel(0, i < 60 ? 40 : -40)
      await page.waitForTimeout(8)
    }
  })
  await page.keyboard.up('Control')
  await page.keyboard.press('0')
  for (let i = 0; i < 6; i++) await page.keyboard.press('+')
  await page.waitForTimeout(500)
  const held = (await page.locator('[data-testid="timeline-body"] [data-clip]').nth(3).boundingBox())!
  await page.mouse.move(held.x + held.width / 2, held.y + 8)
  await page.mouse.down()
  await frames('dragging a clip', async () => {
    for (let i = 0; i < 120; i++) {
      await page.mouse.move(held.x + held.width / 2 + Math.sin(i / 9) * 200, held.y + 8 + (i % 40) * 2)
      await page.waitForTimeout(8)
    }
  })
  await page.keyboard.press('Escape')
  await page.mouse.up()
  const shown = await page.locator('[data-testid="timeline-body"] [data-clip]').count()
  rows.push(['clips on screen meanwhile', shown])

  // Commands in the client, and until the server has them on disk.
  await page.keyboard.press('Escape')
  await page
    .locator('[data-testid="timeline-body"] [data-clip]')
    .nth(4)
    .click({ position: { x: 12, y: 8 } })
  for (let i = 0; i < 40; i++) await page.keyboard.press(i % 2 ? 'Alt+ArrowLeft' : 'Alt+ArrowRight')
  rows.push(['a move in the client, ms (8 at most)', median(await commandTimes(page, 'move'))])
  // With the page closed: what is asked is how long the server takes, not who else wants the processor.
  await page.goto('about:blank')
  const kept: number[] = []
  for (let i = 0; i < 40; i++) {
    const command: CommandInput = { type: 'setClips', clipIds: [pieces[i]!.clipId], set: { gain: -i / 10 } }
    const began = performance.now()
    await api.edit(id, command)
    kept.push(performance.now() - began)
  }
  rows.push(['an edit until the server has kept it, ms (30 at most)', median(kept)])

  // A library of a thousand sources.
  const many = await api.createProject('A thousand sources', 1280, 720, { num: 25, den: 1 })
  const described = Array.from({ length: 1000 }, (_, n) => ({
    type: 'addAsset' as const,
    asset: {
      id: crypto.randomUUID(),
      name: `shot ${n}.mp4`,
      kind: 'video' as const,
      length: second,
      picture: { width: 1280, height: 720, rate: { num: 25, den: 1 }, variable: false, alpha: false },
      sounds: [],
    },
  }))
  for (let i = 0; i < described.length; i += 250) await api.edit(many, ...described.slice(i, i + 250))
  await page.goto(`${origin}/projects/${many}`)
  const list = (await page.getByTestId('footage-list').boundingBox())!
  await page.mouse.move(list.x + list.width / 2, list.y + list.height / 2)
  await page.waitForTimeout(800)
  await frames('scrolling a library of 1,000 sources', async () => {
    for (let i = 0; i < 120; i++) {
      await page.mouse.wheel(0, i < 90 ? 120 : -300)
      await page.waitForTimeout(8)
    }
  })

  // Five hundred times trimmed, extended, undone and done again: everything as it was, no memory lost, no error said.
  const document = async () => (await api.call<{ project: object }>(`/projects/${id}`)).project
  await page.goto(`${origin}/projects/${id}`)
  await page.locator('[data-testid="timeline-body"] [data-clip]').first().waitFor()
  await page.keyboard.press('Home')
  await page
    .locator('[data-testid="timeline-body"] [data-clip]')
    .first()
    .click({ position: { x: 4, y: 8 } })
  await page
    .getByText(/every edit kept/)
    .waitFor({ timeout: 120_000 })
    .catch(() => errors.push('never kept what was edited before'))
  const before = await document()
  // The end is trimmed to the playhead, extended by a frame, and both are taken back, done again and taken back.
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowRight')
  const [undo, redo] = ['Control+z', 'Control+Shift+z']
  const round = async () => {
    for (const key of [']', 'ArrowRight', ']', undo, undo, redo, redo, undo, undo, 'ArrowLeft'])
      await page.keyboard.press(key)
  }
  for (let i = 0; i < 20; i++) await round()
  const start = await pageHeap(page)
  for (let i = 0; i < 500; i++) await round()
  await page
    .getByText(/every edit kept/)
    .waitFor({ timeout: 120_000 })
    .catch(async () => errors.push(`never kept: ${(await page.getByRole('status').allTextContents()).join(' ')}`))
  rows.push([
    'trimmed, extended, undone and redone 500 times, heap grown, MB (5 at most)',
    ((await pageHeap(page)) - start) / 1024 ** 2,
  ])
  rows.push(['… document as it was', sameData(await document(), before) ? 'yes' : 'NO'])
})
