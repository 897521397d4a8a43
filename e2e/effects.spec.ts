import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect as patient, test, type Page } from '@playwright/test'
import { BT709_ARGS } from '@dusk/media'
import { parts, piece, Studio, type ProjectState } from './tools/api'
import { ffmpeg, folder, makeOnce } from './tools/media'
import { averageColour, captured, renderedFile } from './tools/pictures'

const expect = patient.configure({ timeout: 20_000 })

interface Effect {
  owner: string
  ownerId: string
  kind: string
  order: string
  settings: Record<string, unknown>
  mask?: {
    shapes: { kind: string; settings: Record<string, unknown>; path?: { points: unknown[] }[]; strokes?: unknown[] }[]
  }
}
type Project = ProjectState['project'] & { effects: Record<string, Effect> }

/** A grey shot of two seconds with a green half, on the desk. */
async function shotOnDesk(page: Page, baseURL: string) {
  const studio = new Studio(baseURL)
  const dir = folder()
  const id = await studio.createProject('Effects', 640, 360, { num: 30, den: 1 })
  const path = join(dir, 'shot.mp4')
  const drawn = 'color=c=0x808080:s=640x360:d=2:r=30,drawbox=x=320:y=0:w=320:h=360:c=0x20b048:t=fill'
  makeOnce(path, '-f', 'lavfi', '-i', drawn, '-c:v', 'libx264', '-crf', '4', ...BT709_ARGS)
  const source = await studio.upload(id, path)
  const { reelId, track } = parts(await studio.ready(id, [source]))
  const clip = piece(track('Picture 1'), source, null, 0, 2)
  await studio.edit(id, { type: 'place', mode: 'free', pieces: [clip] })
  const read = async () => (await studio.call<{ project: Project }>(`/projects/${id}`)).project
  const stack = async () => Object.values((await read()).effects).sort((a, b) => (a.order < b.order ? -1 : 1))
  await page.goto(`/projects/${id}`)
  await page.waitForFunction(
    () => Number(document.querySelector('[data-shown-tick]')?.getAttribute('data-shown-tick') ?? -1) >= 0,
  )
  await page.getByRole('navigation', { name: 'Drawers' }).getByRole('button', { name: 'Effects' }).click()
  await page
    .locator('[data-clip][aria-label*=" on Picture 1"]')
    .first()
    .click({ position: { x: 30, y: 20 } })
  const details = page.getByRole('complementary', { name: 'Details' })
  /** Puts an effect on by its tile. */
  const add = async (name: string) => {
    await page.getByLabel('Find an effect').fill(name)
    await page.getByRole('region', { name: 'Effects' }).getByRole('button', { name, exact: true }).first().click()
  }
  return { studio, dir, id, reelId, clip, source, read, stack, details, add }
}

test('masks are drawn on the picture by hand, and what they cover is in the frame', async ({ page, baseURL }) => {
  const { stack, details, add } = await shotOnDesk(page, baseURL!)
  await add('Negative')
  const mask = details.getByRole('region', { name: /^Mask of/ })
  await mask.getByRole('button', { name: 'add' }).click()
  await page.getByRole('menuitem', { name: 'Rectangle' }).click()
  await expect.poll(async () => (await stack())[0]?.mask?.shapes[0]?.kind).toBe('rectangle')
  const layer = page.getByTestId('mask-layer')
  const box = (await layer.boundingBox())!
  const at = (x: number, y: number) => [box.x + box.width * x, box.y + box.height * y] as const
  // From the middle to the left quarter, and wide enough for a quarter of the picture.
  await page.mouse.move(...at(0.5, 0.5))
  await page.mouse.down()
  await page.mouse.move(...at(0.3, 0.5), { steps: 4 })
  await page.mouse.move(...at(0.25, 0.5), { steps: 4 })
  await page.mouse.up()
  await expect
    .poll(async () => Math.round(((await stack())[0]!.mask!.shapes[0]!.settings.position as number[])?.[0] ?? 0))
    .toBe(25)
  const frame = await captured(page)
  // Grey turned round is grey; the green half is as it was. Outside the mask at the right nothing changed.
  expect(averageColour(frame, 0.8, 0.5)[1]).toBeGreaterThan(150)
  expect(averageColour(frame, 0.8, 0.5)[0]).toBeLessThan(70)
  // The other way round: now the green half is its opposite.
  await details.getByText('The other way round').click()
  await expect.poll(async () => (await stack())[0]!.mask!.shapes[0]!.settings.invert).toBe(true)
  const turned = await captured(page)
  expect(averageColour(turned, 0.8, 0.5)[1]).toBeLessThan(110)
  expect(averageColour(turned, 0.8, 0.5)[0]).toBeGreaterThan(180)

  // A pen: four points, one of them dragged, one taken out.
  await mask.getByRole('button', { name: 'Remove shape 1' }).click()
  await mask.getByRole('button', { name: 'add' }).click()
  await page.getByRole('menuitem', { name: 'Pen' }).click()
  for (const [x, y] of [
    [0.6, 0.2],
    [0.9, 0.2],
    [0.9, 0.8],
    [0.6, 0.8],
  ] as const)
    await page.mouse.click(...at(x, y))
  await expect.poll(async () => (await stack())[0]?.mask?.shapes[0]?.path?.[0]?.points.length).toBe(4)
  const inside = await captured(page)
  expect(averageColour(inside, 0.75, 0.5)[0]).toBeGreaterThan(180)
  expect(averageColour(inside, 0.55, 0.5)[0]).toBeLessThan(110)
  const point = (await page.getByRole('button', { name: 'Point 3 of the outline' }).boundingBox())!
  await page.mouse.move(point.x + 12, point.y + 12)
  await page.mouse.down()
  await page.mouse.move(...at(0.95, 0.95), { steps: 6 })
  await page.mouse.up()
  await expect
    .poll(async () => Math.round(((await stack())[0]!.mask!.shapes[0]!.path![0]!.points[2] as number[])[1]!))
    .toBe(45)
  await page.getByRole('button', { name: 'Point 1 of the outline' }).dblclick()
  await expect.poll(async () => (await stack())[0]?.mask?.shapes[0]?.path?.[0]?.points.length).toBe(3)

  // A brush, with Alt it rubs out; one undo a stroke.
  await mask.getByRole('button', { name: 'Remove shape 1' }).click()
  await mask.getByRole('button', { name: 'add' }).click()
  await page.getByRole('menuitem', { name: 'Brush' }).click()
  const paint = async (from: [number, number], to: [number, number]) => {
    await page.mouse.move(...at(...from))
    await page.mouse.down()
    await page.mouse.move(...at(...to), { steps: 8 })
    await page.mouse.up()
  }
  await paint([0.6, 0.5], [0.9, 0.5])
  await expect.poll(async () => (await stack())[0]?.mask?.shapes[0]?.strokes?.length).toBe(1)
  const painted = await captured(page)
  expect(averageColour(painted, 0.75, 0.5)[0]).toBeGreaterThan(180)
  expect(averageColour(painted, 0.75, 0.8)[0]).toBeLessThan(70)
  await page.keyboard.down('Alt')
  await paint([0.6, 0.5], [0.9, 0.5])
  await page.keyboard.up('Alt')
  await expect.poll(async () => (await stack())[0]?.mask?.shapes[0]?.strokes?.length).toBe(2)
  expect(averageColour(await captured(page), 0.75, 0.5)[0]).toBeLessThan(70)
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await stack())[0]?.mask?.shapes[0]?.strokes?.length).toBe(1)
})

test('colours are told by curves, wheels and by pointing; the line divides before from after', async ({
  page,
  baseURL,
}) => {
  const { stack, details, add, read } = await shotOnDesk(page, baseURL!)
  await add('Curves')
  const plot = details.getByRole('group', { name: 'Curve: All' })
  await plot.scrollIntoViewIfNeeded()
  const area = (await plot.boundingBox())!
  await page.mouse.move(area.x + area.width * 0.5, area.y + area.height * 0.5)
  await page.mouse.down()
  await page.mouse.move(area.x + area.width * 0.5, area.y + area.height * 0.25, { steps: 5 })
  await page.mouse.up()
  await expect
    .poll(async () => String((await stack())[0]?.settings.luma ?? ''))
    .toMatch(/^0,0 0\.5\d*,0\.7[3-7]\d* 1,1$/)
  const grey = averageColour(await captured(page), 0.2, 0.5)
  expect(grey[1]).toBeGreaterThan(175)
  // A double click takes the point out again.
  await plot.getByRole('button', { name: /^Point of All: 50/ }).dblclick()
  await expect.poll(async () => (await stack())[0]?.settings.luma ?? null).toBeNull()

  await add('Colour wheels')
  const wheel = details.getByRole('button', { name: /^Tint: 0 across, 0 up/ }).first()
  await wheel.scrollIntoViewIfNeeded()
  const disc = (await wheel.boundingBox())!
  await page.mouse.move(disc.x + disc.width / 2, disc.y + disc.height / 2)
  await page.mouse.down()
  await page.mouse.move(disc.x + disc.width / 2 + 40, disc.y + disc.height / 2, { steps: 5 })
  await page.mouse.up()
  await expect
    .poll(async () => ((await stack())[1]?.settings.allTint as number[] | undefined)?.[0] ?? 0)
    .toBeGreaterThan(40)
  const blue = averageColour(await captured(page), 0.2, 0.5)
  expect(blue[2] - blue[0]).toBeGreaterThan(30)

  // The line between: dragged to the right, more of it is as it was.
  const shown = () =>
    page.evaluate(() => {
      const canvas = document.querySelector('canvas[aria-label="Picture of the reel"]') as HTMLCanvasElement
      const sheet = new OffscreenCanvas(canvas.width, canvas.height)
      const context = sheet.getContext('2d')!
      context.drawImage(canvas, 0, 0)
      const [r, , b] = context.getImageData(Math.round(canvas.width * 0.3), Math.round(canvas.height / 2), 1, 1).data
      return b! - r!
    })
  await expect.poll(shown).toBeGreaterThan(30)
  await page.locator('body').press('Shift+V')
  await expect.poll(shown).toBeLessThan(6)
  const line = page.getByRole('button', { name: 'Line between without and with effects' })
  const at = (await line.boundingBox())!
  await page.mouse.move(at.x + at.width / 2, at.y + 60)
  await page.mouse.down()
  await page.mouse.move(at.x - at.height, at.y + 60, { steps: 6 })
  await page.mouse.up()
  await expect.poll(shown).toBeGreaterThan(30)
  await page.locator('body').press('Shift+V')

  // The green half is pointed at and goes: beneath is the reel's ground.
  await add('Green screen')
  await details.getByRole('button', { name: 'Pick the colour' }).click()
  const surface = (await page.getByTestId('pipette').boundingBox())!
  await page.mouse.click(surface.x + surface.width * 0.8, surface.y + surface.height / 2)
  await expect
    .poll(async () => (await stack()).some(({ kind, settings }) => kind === 'keyColour' && settings.colour))
    .toBe(true)
  const keyed = await captured(page)
  expect(Math.max(...averageColour(keyed, 0.8, 0.5))).toBeLessThan(12)
  expect(averageColour(keyed, 0.2, 0.5)[1]).toBeGreaterThan(60)
  expect(Object.keys((await read()).effects)).toHaveLength(3)
})

test('tables of colours are loaded, refused with their line, and reach the rendered file', async ({
  page,
  baseURL,
}) => {
  const { studio, dir, id, reelId, stack, details, add } = await shotOnDesk(page, baseURL!)
  await add('LUT file')
  const bad = join(dir, 'bad.cube')
  writeFileSync(bad, 'LUT_3D_SIZE 2\n0 0 0\n1 zero 0\n')
  const input = details.locator('input[type=file]')
  await input.setInputFiles(bad)
  await expect(page.getByText('Line 3: three numbers are wanted')).toBeVisible()
  const huge = join(dir, 'huge.cube')
  writeFileSync(huge, `LUT_3D_SIZE 129\n${'0.25 0.5 0.75\n'.repeat(7_500_000)}`)
  await input.setInputFiles(huge)
  await expect(page.getByText(/A \.cube file of more than \d+ MB is not taken/)).toBeVisible()
  // Everything becomes its opposite.
  const corners = [0, 1].flatMap((b) => [0, 1].flatMap((g) => [0, 1].map((r) => `${1 - r} ${1 - g} ${1 - b}`)))
  const good = join(dir, 'opposite.cube')
  writeFileSync(good, `TITLE "Opposite"\nLUT_3D_SIZE 2\n${corners.join('\n')}\n`)
  await input.setInputFiles(good)
  await expect(details.getByText('Opposite')).toBeVisible()
  await expect.poll(async () => String((await stack())[0]?.settings.file ?? '')).toMatch(/^[0-9a-f]{64}$/)
  const frame = await captured(page)
  expect(averageColour(frame, 0.8, 0.5)[1]).toBeLessThan(110)
  expect(averageColour(frame, 0.8, 0.5)[0]).toBeGreaterThan(190)

  const file = await renderedFile(studio, id, reelId, { width: 640, height: 360, rate: { num: 30, den: 1 } })
  const raw = ffmpeg('-ss', '1', '-i', file, '-frames:v', '1', '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-')
  const i = (180 * 640 + 512) * 3
  expect(raw[i]!).toBeGreaterThan(190)
  expect(raw[i + 1]!).toBeLessThan(110)
})
