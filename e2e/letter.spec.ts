import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect as patient, test } from '@playwright/test'
import { parts, piece, SECOND, Studio, type ProjectState } from './tools/api'
import { chooseFiles } from './tools/choose'
import { colourBars, ffmpeg, flashAndBeep, folder } from './tools/media'

/** What is done on the page is in the document within seconds. */
const expect = patient.configure({ timeout: 20_000 })

type Clip = {
  id: string
  kind: string
  start: number
  length: number
  params: Record<string, unknown>
  title?: { text: string; runs: unknown[] }
}
type Project = ProjectState['project'] & {
  clips: Record<string, Clip>
  transitions: Record<string, { id: string; kind: string; before: number; after: number }>
}

test('two shots are joined, a title is typed on the picture, moved, animated, and all of it is in the file', async ({
  page,
  baseURL,
}) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  const id = await studio.createProject('Letter', 1280, 720, { num: 25, den: 1 })
  const [bars, flash] = await Promise.all([
    studio.upload(id, colourBars(join(dir, 'bars.mp4'))),
    studio.upload(id, flashAndBeep(join(dir, 'flash.mp4'))),
  ])
  const ready = await studio.ready(id, [bars, flash])
  const { reelId, track } = parts(ready)
  await studio.edit(id, {
    type: 'place',
    mode: 'free',
    pieces: [piece(track('Picture 1'), bars, null, 0, 2), piece(track('Picture 1'), flash, null, 2, 2, 1)],
  })
  const read = async () => (await studio.call<{ project: Project }>(`/projects/${id}`)).project
  const transitions = async () => Object.values((await read()).transitions)
  await page.goto(`/projects/${id}`)
  const position = page.getByLabel(/^Position\./)
  const goTo = async (frame: number) => {
    await position.fill(`${frame}f`)
    await position.press('Enter')
  }

  // The key puts the standard transition on the cut nearest to the playhead.
  await goTo(45)
  await page.locator('body').press('e')
  await expect
    .poll(async () => (await transitions()).map(({ kind, before, after }) => [kind, (before + after) / SECOND]))
    .toEqual([['dissolve', 1]])
  // Another kind from the gallery takes its place; an end is dragged to make it longer.
  await page.getByRole('button', { name: 'Transitions', exact: true }).click()
  await page.getByLabel('Find a transition').fill('barn')
  await page.getByRole('button', { name: 'Barn doors', exact: true }).click()
  await expect.poll(async () => (await transitions())[0]?.kind).toBe('barnDoors')
  const mark = page.getByRole('button', { name: /^Barn doors, / })
  const box = (await mark.boundingBox())!
  await page.mouse.move(box.x + box.width - 2, box.y + 20)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width + 8, box.y + 20, { steps: 4 })
  await page.mouse.move(box.x + box.width + 16, box.y + 20, { steps: 4 })
  await page.mouse.up()
  await expect
    .poll(async () =>
      (await transitions()).map(
        ({ before, after }) => before + after > SECOND && Math.abs(before - after) <= SECOND / 25,
      ),
    )
    .toEqual([true])
  await page.keyboard.press('Control+z')
  await expect
    .poll(async () => (await transitions()).map(({ before, after }) => (before + after) / SECOND))
    .toEqual([1])

  // A title is typed on the picture, letter by letter the viewer follows, and Escape ends.
  await goTo(10)
  await page.locator('body').press('q')
  await page.keyboard.type('Lantern nigth')
  await page.keyboard.press('Backspace')
  await page.keyboard.press('Backspace')
  await page.keyboard.type('ht')
  await page.keyboard.press('Escape')
  const title = async () => Object.values((await read()).clips).find((clip) => clip.kind === 'title')
  await expect.poll(async () => (await title())?.title?.text).toBe('Lantern night')

  // Dragged near the left third it sticks there; its middle is on the line.
  const overlay = page.getByTestId('viewer-overlay')
  const view = (await overlay.boundingBox())!
  const scale = view.width / 1280
  const [cx, cy] = [view.x + view.width / 2, view.y + view.height / 2]
  await page.mouse.move(cx, cy)
  await page.mouse.down()
  await page.mouse.move(cx - 60, cy + 10, { steps: 5 })
  await page.mouse.move(view.x + view.width / 3 + 3, cy + 60, { steps: 5 })
  await page.mouse.up()
  await expect
    .poll(async () => Math.round(((await title())?.params.position as number[] | undefined)?.[0] ?? 0))
    .toBe(Math.round(1280 / 3 - 640))
  // An arrow key moves it by one pixel, with Shift by ten.
  const before = (await title())!.params.position as number[]
  await overlay.press('ArrowDown')
  await overlay.press('Shift+ArrowUp')
  await expect.poll(async () => Math.round(((await title())!.params.position as number[])[1]! - before[1]!)).toBe(-9)

  // A corner makes it larger about its middle.
  const corner = page.getByRole('button', { name: 'Make it larger or smaller, corner 3' })
  const grip = (await corner.boundingBox())!
  await page.mouse.move(grip.x + 12, grip.y + 12)
  await page.mouse.down()
  await page.mouse.move(grip.x + 40, grip.y + 20, { steps: 6 })
  await page.mouse.up()
  await expect.poll(async () => Number((await title())?.params.size ?? 100)).toBeGreaterThan(104)

  // Two keyframes on the opacity: the first click sets one, a change elsewhere the next.
  const details = page.getByRole('complementary', { name: 'Details' })
  await details.getByRole('button', { name: 'Mix' }).click()
  await goTo(20)
  await details.getByRole('button', { name: 'Set a keyframe of Opacity' }).click()
  await goTo(40)
  const opacity = details.getByLabel('Opacity, in %')
  await opacity.fill('0')
  await opacity.press('Enter')
  await expect.poll(async () => (await title())?.params.opacity).toMatchObject({ keys: [{ value: 100 }, { value: 0 }] })
  await details.getByRole('button', { name: 'Previous keyframe of Opacity' }).click()
  await expect(position).toHaveValue('0:00:00:20')

  // Typing shows on the picture within 50 ms: the median over many letters.
  await goTo(12)
  await overlay.dblclick({ position: { x: view.width / 3, y: cy - view.y + 55 } })
  const shown: number[] = []
  for (const letter of ' at the quay') {
    const tick = await page.evaluate(() => performance.now())
    await page.keyboard.type(letter)
    await page.waitForFunction(
      (from) => performance.getEntriesByName('tried out shown').some((entry) => entry.startTime > from),
      tick,
    )
    shown.push(
      await page.evaluate(
        () => (performance.getEntriesByName('tried out shown').at(-1) as PerformanceMark & { detail: number }).detail,
      ),
    )
  }
  await page.keyboard.press('Escape')
  await expect.poll(async () => (await title())?.title?.text).toContain('at the quay')
  console.log(`typing to picture: ${shown.sort((a, b) => a - b)[6]!.toFixed(0)} ms median`)

  // The file has it all: bright letters early, none where the title has faded, doors open half way through the cut.
  const settings = { width: 640, height: 360, rate: { num: 25, den: 1 }, quality: 'good', range: null, sound: true }
  const { id: renderId } = await studio.render(id, reelId, 'Letter', settings)
  const file = join(dir, 'letter.mp4')
  writeFileSync(file, await studio.file(`/api/renders/${renderId}/file`))
  const plane = (frame: number) =>
    ffmpeg(
      '-i',
      file,
      '-vf',
      `select=eq(n\\,${frame})`,
      '-frames:v',
      '1',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgb24',
      'pipe:1',
    )
  const difference = (a: Buffer, b: Buffer, keep: (x: number, y: number) => boolean) => {
    let [sum, n] = [0, 0]
    for (let y = 0; y < 360; y++)
      for (let x = 0; x < 640; x++)
        if (keep(x, y)) {
          n++
          for (let k = 0; k < 3; k++) sum += Math.abs(a[(y * 640 + x) * 3 + k]! - b[(y * 640 + x) * 3 + k]!)
        }
    return sum / n
  }
  const place = (await title())!.params.position as number[]
  const near = (x: number, y: number) =>
    Math.abs(x - 320 - place[0]! / 2) < 90 && Math.abs(y - 180 - place[1]! / 2) < 16
  const [words, gone] = [plane(12), plane(41)]
  expect(difference(words, gone, near)).toBeGreaterThan(12)
  void scale
  // Barn doors part from the middle: at the cut the middle is the new shot and the sides are still the old one.
  const [left, cut, right] = [plane(36), plane(50), plane(64)]
  const middle = (x: number) => Math.abs(x - 320) < 60
  const edge = (x: number) => x < 40 || x > 600
  const top = (keep: (x: number) => boolean) => (x: number, y: number) => keep(x) && y < 90
  expect(difference(cut, right, top(middle))).toBeLessThan(difference(cut, left, top(middle)))
  expect(difference(cut, left, top(edge))).toBeLessThan(difference(cut, right, top(edge)))
})

test('a title is edited line by line and word by word, in a font file of one’s own, and says what is missing', async ({
  page,
  baseURL,
}) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Script', 1280, 720, { num: 25, den: 1 })
  const read = async () => (await studio.call<{ project: Project }>(`/projects/${id}`)).project
  const title = async () =>
    Object.values((await read()).clips).find(({ kind }) => kind === 'title')?.title as
      { text: string; style: Record<string, unknown> } | undefined
  await page.goto(`/projects/${id}`)
  await page.getByTestId('timeline-body').waitFor()
  await page.locator('body').press('q')
  const caret = page.getByRole('textbox', { name: 'Words of the title' }).first()
  await caret.waitFor()
  await page.keyboard.type('Lanterns drift\nout with the tide')
  await expect.poll(async () => (await title())?.text).toBe('Lanterns drift\nout with the tide')
  const place = () => caret.evaluate((field: HTMLTextAreaElement) => [field.selectionStart, field.selectionEnd])
  await page.keyboard.press('Home')
  await expect.poll(place).toEqual([15, 15])
  await page.keyboard.press('ArrowUp')
  await expect.poll(async () => (await place())[0]).toBeLessThan(8)
  await page.keyboard.press('End')
  await expect.poll(place).toEqual([14, 14])
  await page.keyboard.press('Shift+Home')
  await expect.poll(place).toEqual([0, 14])
  await page.keyboard.press('ArrowDown')
  await expect.poll(async () => (await place())[0]).toBeGreaterThan(14)
  // A double click marks the word under it; what is typed takes its place.
  const words = page.locator('.cursor-text')
  const box = (await words.boundingBox())!
  await page.mouse.dblclick(box.x + box.width / 2, box.y + box.height * 0.25)
  await expect.poll(async () => (await place())[1]! - (await place())[0]!).toBeGreaterThan(3)
  await page.keyboard.type('Boats')
  await expect.poll(async () => (await title())?.text).toMatch(/^(Boats drift|Lanterns Boats)\nout with the tide$/)
  // A letter that no font has is said where it is, and again before a render.
  await page.keyboard.type(' 𓂀')
  const faults = page.getByRole('list', { name: 'What is wrong with this title' })
  await expect(faults).toContainText('No font here has “𓂀” (letter')
  await page.keyboard.press('Escape')

  const file = 'node_modules/@fontsource-variable/pixelify-sans/files/pixelify-sans-latin-wght-normal.woff2'
  await chooseFiles(page, () => page.getByRole('button', { name: 'A font file of your own' }).click(), file)
  await expect.poll(async () => (await title())?.style.font).toMatch(/^Pixelify Sans.*#[0-9a-f]{64}$/)
  await expect(page.getByRole('combobox', { name: 'Font' })).toHaveValue(/^Pixelify Sans/)
  // What is none is refused in words.
  const wrong = join(folder(), 'none.ttf')
  writeFileSync(wrong, 'not a font at all')
  await chooseFiles(page, () => page.getByRole('button', { name: 'A font file of your own' }).click(), wrong)
  await expect(page.getByText('none.ttf can’t be used. This is no font that can be read')).toBeVisible()

  await page.getByRole('button', { name: 'Render', exact: true }).click()
  await expect(page.getByRole('list', { name: 'Before it is rendered' })).toContainText('No font here has “𓂀”')
})
