import { join } from 'node:path'
import { expect as patient, test, type CDPSession, type Page } from '@playwright/test'
import { DEFAULT_KEYS } from '../apps/studio/app/features/shortcuts/defaults'
import { parts, piece, SECOND, Studio, type ProjectState } from './tools/api'
import { colourBars, folder } from './tools/media'

/** What is done on the page is in the document within seconds. */
const expect = patient.configure({ timeout: 20_000 })
const frame = SECOND / 30

interface Key {
  at: number
  value: number
}
type Clip = { id: string; start: number; length: number; params: Record<string, { keys: Key[] } | undefined> }
type Project = ProjectState['project'] & { clips: Record<string, Clip>; transitions: Record<string, unknown> }

/** A project of three shots of two seconds, at 30 frames a second, opened on the page with the first one selected. */
async function threeShots(page: Page, baseURL: string) {
  const studio = new Studio(baseURL)
  const id = await studio.createProject('Hands', 640, 360, { num: 30, den: 1 })
  const bars = await studio.upload(id, colourBars(join(folder(), 'bars.mp4')))
  const { reelId, track } = parts(await studio.ready(id, [bars]))
  const pieces = [0, 2, 4].map((start) => piece(track('Picture 1'), bars, null, start, 2, 1))
  await studio.edit(id, { type: 'place', mode: 'free', pieces })
  const read = async () => (await studio.call<{ project: Project }>(`/projects/${id}`)).project
  return { studio, id, reelId, pieces, read, clip: async (n = 0) => (await read()).clips[pieces[n]!.clipId]! }
}

/** A drag as a hand makes it: pressed, moved in steps, let go. */
async function drag(page: Page, from: { x: number; y: number }, dx: number, dy = 0): Promise<void> {
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  for (let i = 1; i <= 6; i++) await page.mouse.move(from.x + (dx * i) / 6, from.y + (dy * i) / 6)
  await page.mouse.up()
}

test('keyframes are dragged, moved by arrows, selected together, stretched, copied and removed', async ({
  page,
  baseURL,
}) => {
  const { studio, id, pieces, clip } = await threeShots(page, baseURL!)
  const key = (at: number, value: number) => ({ at: at * frame, value, ease: 'linear' })
  await studio.edit(id, {
    type: 'setParams',
    clipIds: [pieces[0]!.clipId],
    set: {
      opacity: { keys: [key(10, 20), key(30, 90), key(50, 40)] },
      rotation: { keys: [key(10, 0), key(50, 30)] },
    },
  })
  const frames = async (setting: string) =>
    (await clip()).params[setting]!.keys.map(({ at, value }) => [Math.round(at / frame), value])

  await page.goto(`/projects/${id}`)
  const position = page.getByLabel(/^Position\./)
  const goTo = async (at: number) => {
    await position.fill(`${at}f`)
    await position.press('Enter')
  }
  await goTo(5)
  await page.locator('body').press('Control+a')
  await page.locator('body').press('Shift+Z')
  await page.locator('body').press('Escape')
  const canvas = page.getByRole('region', { name: 'Timeline' }).locator('canvas').first()
  const box = (await canvas.boundingBox())!
  // Six seconds fill the width; half a second in is the first shot.
  await expect(async () => {
    const head = (await page.getByText('Picture 1', { exact: true }).boundingBox())!
    await page.mouse.click(box.x + box.width * 0.1, head.y + head.height / 2)
    await expect(page.getByRole('region', { name: 'Keyframes' })).toBeVisible({ timeout: 500 })
  }).toPass()
  const panel = page.getByRole('region', { name: 'Keyframes' })
  const keysOf = (label: string) => panel.getByRole('button', { name: new RegExp(`^Keyframe of ${label}`) })
  const middle = async (label: string, n: number) => {
    const at = (await keysOf(label).nth(n).boundingBox())!
    return { x: at.x + at.width / 2, y: at.y + at.height / 2 }
  }
  await expect(keysOf('Opacity')).toHaveCount(3)
  const perFrame = ((await middle('Opacity', 1)).x - (await middle('Opacity', 0)).x) / 20

  // One is dragged by eight frames; the others stay.
  await drag(page, await middle('Opacity', 1), perFrame * 8)
  await expect
    .poll(() => frames('opacity'))
    .toEqual([
      [10, 20],
      [38, 90],
      [50, 40],
    ])
  // What was dragged has the arrows, and then Delete; the clip stays where it is.
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('Shift+ArrowLeft')
  await expect.poll(async () => (await frames('opacity'))[1]).toEqual([27, 90])
  await page.keyboard.press('Delete')
  await expect.poll(async () => (await frames('opacity')).map(([at]) => at)).toEqual([10, 50])
  expect((await clip()).length).toBe(2 * SECOND)
  await page.keyboard.press('Control+z')
  await expect(keysOf('Opacity')).toHaveCount(3)

  // A band over both rows takes all of it; the whole is dragged as one.
  const first = await middle('Opacity', 0)
  const last = await middle('Turn', 1)
  await drag(page, { x: first.x - 14, y: first.y - 6 }, last.x - first.x + 28, last.y - first.y + 10)
  await expect(panel.locator('[aria-pressed="true"][aria-label^="Keyframe of"]')).toHaveCount(5)
  await drag(page, first, perFrame * 4)
  await expect.poll(async () => (await frames('opacity')).map(([at]) => at)).toEqual([14, 31, 54])
  expect((await frames('rotation')).map(([at]) => at)).toEqual([14, 54])
  // Its end is dragged: from 14 to 34, everything comes twice as close.
  const end = (await panel.getByTitle('Drag to stretch the selected keyframes in time').last().boundingBox())!
  await drag(page, { x: end.x + end.width / 2, y: end.y + end.height / 2 }, -perFrame * 20)
  await expect.poll(async () => (await frames('rotation')).map(([at]) => at)).toEqual([14, 34])
  expect((await frames('opacity')).map(([at]) => at)).toEqual([14, 23, 34])

  // Copied, and pasted at the playhead.
  await page.keyboard.press('Control+c')
  await goTo(36)
  await panel.focus()
  await page.keyboard.press('Control+v')
  await expect.poll(async () => (await frames('rotation')).map(([at]) => at)).toEqual([14, 34, 36, 56])
  // With Alt a copy is dragged off; the keyframe stays.
  await page.keyboard.press('Escape')
  await page.keyboard.down('Alt')
  await drag(page, await middle('Turn', 0), -perFrame * 6)
  await page.keyboard.up('Alt')
  await expect.poll(async () => (await frames('rotation')).map(([at]) => at)).toEqual([8, 14, 34, 36, 56])
  // Escape in the middle of a drag leaves all as it was.
  const before = await frames('rotation')
  const from = await middle('Turn', 4)
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(from.x - perFrame * 5, from.y, { steps: 4 })
  await page.keyboard.press('Escape')
  await page.mouse.up()
  // An edit that was made in spite of it would be in the document by then.
  await page.waitForTimeout(1000)
  expect(await frames('rotation')).toEqual(before)
})

/** What a keyboard sends for a shortcut: the sign typed, the key's place, and what is held. */
interface Stroke {
  key: string
  code: string
  modifiers: number
}
const HELD: Record<string, number> = { Alt: 1, Ctrl: 2, Shift: 8 }
const PLAIN: Record<string, [key: string, code: string]> = {
  Space: [' ', 'Space'],
  '←': ['ArrowLeft', 'ArrowLeft'],
  '→': ['ArrowRight', 'ArrowRight'],
  '↑': ['ArrowUp', 'ArrowUp'],
  '↓': ['ArrowDown', 'ArrowDown'],
}
/** Signs: the place of their key, what is held to type them, and what the key types with Shift. */
type Signs = Record<string, [code: string, modifiers: number, shifted?: string]>
const LAYOUTS: Record<string, { signs: Signs; letters: Record<string, string> }> = {
  English: {
    letters: {},
    signs: {
      ',': ['Comma', 0, '<'],
      '.': ['Period', 0, '>'],
      '[': ['BracketLeft', 0],
      ']': ['BracketRight', 0],
      '{': ['BracketLeft', 8],
      '}': ['BracketRight', 8],
      '+': ['Equal', 8],
      '=': ['Equal', 0],
      '-': ['Minus', 0],
      '?': ['Slash', 8],
    },
  },
  German: {
    letters: { Y: 'KeyZ', Z: 'KeyY' },
    signs: {
      ',': ['Comma', 0, ';'],
      '.': ['Period', 0, ':'],
      // With AltGr, which is not among what is reported as held.
      '[': ['Digit8', 0],
      ']': ['Digit9', 0],
      '{': ['Digit7', 0],
      '}': ['Digit0', 0],
      '+': ['BracketRight', 0],
      '=': ['Digit0', 8],
      '-': ['Slash', 0],
      '?': ['Minus', 8],
    },
  },
}

function strokeOf(name: string, layout: string): Stroke {
  const words = name.split(' ')
  const last = words.pop()!
  const modifiers = words.reduce((sum, word) => sum + HELD[word]!, 0)
  const { signs, letters } = LAYOUTS[layout]!
  const sign = signs[last]
  if (sign) return { key: modifiers === 8 ? sign[2]! : last, code: sign[0], modifiers: modifiers + sign[1] }
  if (/^[A-Z]$/.test(last)) {
    const key = modifiers & 8 ? last : last.toLowerCase()
    return { key, code: letters[last] ?? `Key${last}`, modifiers }
  }
  if (/^\d$/.test(last)) return { key: last, code: `Digit${last}`, modifiers }
  const [key, code] = PLAIN[last] ?? [last, last]
  return { key, code, modifiers }
}

async function strike(session: CDPSession, { key, code, modifiers }: Stroke): Promise<void> {
  await session.send('Input.dispatchKeyEvent', { type: 'rawKeyDown', key, code, modifiers })
  await session.send('Input.dispatchKeyEvent', { type: 'keyUp', key, code, modifiers })
}

for (const layout of Object.keys(LAYOUTS))
  test(`every shipped key is taken on the ${layout} keyboard, and does what it says`, async ({ page, baseURL }) => {
    const { id, clip, read } = await threeShots(page, baseURL!)
    await page.goto(`/projects/${id}`)
    const position = page.getByLabel(/^Position\./)
    const goTo = async (at: number) => {
      await position.fill(`${at}f`)
      await position.press('Enter')
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
    }
    const session = await page.context().newCDPSession(page)
    const press = (name: string) => strike(session, strokeOf(name, layout))

    // Signs that lie elsewhere, or need other keys held, on other keyboards.
    await goTo(50)
    await press(']')
    await expect.poll(async () => (await clip()).length / frame).toBe(50)
    await goTo(40)
    await press('}')
    await expect.poll(async () => (await clip()).length / frame).toBe(40)
    // The gap of ten frames is kept, and what follows it came along.
    await expect.poll(async () => (await clip(1)).start / frame).toBe(50)
    await goTo(60)
    await press('{')
    await expect.poll(async () => (await clip(1)).length / frame).toBe(50)
    await goTo(60)
    await press('Shift ,')
    await expect.poll(async () => Object.keys((await read()).transitions).length).toBe(1)
    await press('Ctrl Z')
    await expect.poll(async () => Object.keys((await read()).transitions).length).toBe(0)
    await press('Ctrl Y')
    await expect.poll(async () => Object.keys((await read()).transitions).length).toBe(1)
    await press('?')
    await expect(page.getByRole('dialog')).toContainText('Play or pause')
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog')).toBeHidden()

    // A key that an action has is taken from the browser; one that nothing has is left alone.
    await page.evaluate(() => {
      const taken: boolean[] = []
      Object.assign(window, { taken })
      window.addEventListener('keydown', (event) => taken.push(event.defaultPrevented))
    })
    const taken = () => page.evaluate(() => (window as unknown as { taken: boolean[] }).taken.at(-1))
    await strike(session, { key: 'F4', code: 'F4', modifiers: 0 })
    expect(await taken()).toBe(false)
    for (const [action, keys] of Object.entries(DEFAULT_KEYS))
      for (const name of keys) {
        if (action === 'view.shortcuts') continue
        await press(name)
        expect([action, name, await taken()]).toEqual([action, name, true])
        // What is typed into goes no further with keys of its own.
        await page.evaluate(() => {
          const { activeElement: at } = document
          if (at instanceof HTMLElement && (at.isContentEditable || /^(INPUT|TEXTAREA)$/.test(at.tagName))) at.blur()
        })
        const dialog = page.getByRole('dialog')
        if (await dialog.isVisible()) await page.keyboard.press('Escape')
      }
  })

test('a transition is put, and pasted, on one cut after the other where the playhead goes', async ({
  page,
  baseURL,
}) => {
  const { id, read, clip } = await threeShots(page, baseURL!)
  const places = async () => {
    const { clips, transitions } = await read()
    const before = Object.values(transitions as Record<string, { leftId: string }>).map(({ leftId }) => clips[leftId]!)
    return before.map(({ start, length }) => (start + length) / SECOND).sort()
  }
  await page.goto(`/projects/${id}`)
  const position = page.getByLabel(/^Position\./)
  const press = async (at: number, key: string) => {
    await position.fill(`${at}f`)
    await position.press('Enter')
    await page.keyboard.press(key)
  }
  await press(60, 'e')
  await expect.poll(places).toEqual([2])
  // Above the transition the clips are taken hold of at their edges, as anywhere.
  const box = (await page.getByRole('button', { name: /^Dissolve, / }).boundingBox())!
  await drag(page, { x: box.x + box.width / 2 + 3, y: box.y - 8 }, 40)
  await expect.poll(async () => (await clip(1)).start / SECOND).toBeGreaterThan(2.1)
  await page.keyboard.press('Control+z')
  await expect.poll(places).toEqual([2])
  await press(120, 'e')
  await expect.poll(places).toEqual([2, 4])
  await page.keyboard.press('Control+z')
  await expect.poll(places).toEqual([2])
  await page.getByRole('button', { name: /^Dissolve, / }).click()
  await page.keyboard.press('Control+c')
  await press(120, 'Control+v')
  await expect.poll(places).toEqual([2, 4])
})
