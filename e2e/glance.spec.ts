import { join } from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { connect } from '@dusk/store'
import { parts, piece, Studio, type ProjectState } from './tools/api'
import { ffmpeg, folder } from './tools/media'
import { averageColour, captured } from './tools/pictures'

/** Frame n is as bright as n says, so that a picture tells which frame it is. */
const GREY = "nullsrc=s=64x36:r=30:d=5,geq=lum='20+mod(N*2,200)':cb=128:cr=128,scale=1280:720"
/** Footage by how it is coded: the browser decodes the first itself, the server has to decode the other. */
const FILES = {
  'plain.mp4': '-c:v libx264 -preset ultrafast -qp 12 -g 30 -bf 2 -pix_fmt yuv420p',
  'camera.avi': '-c:v mpeg4 -q:v 2 -g 15 -pix_fmt yuv420p',
}

/** As if a proxy were still being made for a long time. */
async function withoutProxies(): Promise<void> {
  const connection = connect(process.env.DATABASE_URL!, 1)
  await connection.sql`update artefacts set state = 'working', progress = 0.3, heartbeat_at = now() + interval '1 hour'
    where kind = 'proxy'`
  await connection.close()
}

async function withProxies(): Promise<void> {
  const connection = connect(process.env.DATABASE_URL!, 1)
  await connection.sql`update artefacts set state = 'ready', progress = 1 where kind = 'proxy'`
  await connection.close()
}

/** Brightness in the middle of what the viewer shows, 0 to 255. */
async function shown(page: Page): Promise<number> {
  const canvas = page.getByLabel('Picture of the reel')
  const box = (await canvas.boundingBox())!
  const clip = { x: box.x + box.width / 2 - 4, y: box.y + box.height / 2 - 4, width: 8, height: 8 }
  const png = join(folder(), 'viewer.png')
  await page.screenshot({ path: png, clip })
  const rgb = ffmpeg('-i', png, '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-')
  return averageColour({ width: 8, height: 8, rgb }, 0.5, 0.5)[0]
}
const drawn = (frame: number) => ((20 + ((frame * 2) % 200) - 16) * 255) / 219

test.afterEach(withProxies)

for (const [name, coding] of Object.entries(FILES))
  test(`${name} is seen, sought and played before its preview is made, in the same frames as after`, async ({
    page,
    baseURL,
  }) => {
    const studio = new Studio(baseURL!)
    const id = await studio.createProject(`At once ${name}`, 1280, 720, { num: 30, den: 1 })
    const path = join(folder(), name)
    ffmpeg('-f', 'lavfi', '-i', GREY, ...coding.split(' '), path)
    const asset = await studio.upload(id, path)
    const { track } = parts(await studio.ready(id, [asset]))
    await studio.edit(id, { type: 'place', pieces: [piece(track('Picture 1'), asset, null, 0, 4, 0.5)], mode: 'free' })
    await withoutProxies()
    const state = await studio.call<ProjectState & { sources: Record<string, { strip: { times: number[] } }> }>(
      `/projects/${id}`,
    )
    // The strip that was there within seconds stands in.
    expect(state.sources[asset]!.strip.times.length).toBeGreaterThan(5)

    await page.goto(`/projects/${id}`)
    await expect(page.getByText(`${name} is shown from the original`)).toBeVisible()
    await expect(page.getByText('preview 30 %').first()).toBeVisible()
    const place = page.getByLabel('Position. Type a place and press Enter.')
    const at = async (frame: number) => {
      await place.fill(`${frame}f`)
      await place.press('Enter')
      const off = async () => Math.abs((await shown(page)) - drawn(frame + 15))
      await expect.poll(off, `frame ${frame}`).toBeLessThan(1.2)
    }
    for (const frame of [60, 0, 77, 33]) await at(frame)

    // It plays: pictures follow each other, and end where it is stopped.
    await place.fill('0f')
    await place.press('Enter')
    await page.locator('body').click({ position: { x: 640, y: 6 } })
    await page.keyboard.press('l')
    const viewer = page.getByLabel('Viewer', { exact: true })
    await expect.poll(async () => Number(await viewer.getAttribute('data-frames-shown'))).toBeGreaterThan(3)
    await page.keyboard.press('k')

    // What is saved is from the original before and after.
    await withProxies()
    await page.reload()
    await expect(page.getByText('is shown from the original')).toHaveCount(0)
    await at(77)
    if (name === 'plain.mp4')
      expect(averageColour(await captured(page, 1280, 720), 0.5, 0.5)[0]).toBeCloseTo(drawn(92), -1)
  })

test('a long source is shown from the pieces that are there, and what is looked at is made next', async ({
  page,
  baseURL,
}) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('In pieces', 1280, 720, { num: 30, den: 1 })
  const path = join(folder(), 'long.mp4')
  const long = GREY.replace('d=5', 'd=26').replace('scale=1280:720', 'scale=640:360')
  ffmpeg('-f', 'lavfi', '-i', long, ...FILES['plain.mp4'].split(' '), path)
  const asset = await studio.upload(id, path)
  const { track } = parts(await studio.ready(id, [asset]))
  await studio.edit(id, { type: 'place', pieces: [piece(track('Picture 1'), asset, null, 0, 26, 0)], mode: 'free' })
  // As if the second of four pieces were all that is there so far.
  const connection = connect(process.env.DATABASE_URL!, 1)
  const { sql } = connection
  await sql`update artefacts
    set state = 'working', progress = 0.3, heartbeat_at = now() + interval '1 hour', near = null,
    facts = jsonb_build_object('pieces', jsonb_build_object('1', facts -> 'pieces' -> '1')) where kind = 'proxy'
    and facts -> 'pieces' ? '3'`
  const fetched: string[] = []
  page.on('request', (request) => fetched.push(new URL(request.url()).pathname))
  await page.goto(`/projects/${id}`)
  await expect(page.getByText('preview 30 %').first()).toBeVisible()
  const place = page.getByLabel('Position. Type a place and press Enter.')
  for (const frame of [300, 479, 240, 481, 239, 700]) {
    const before = fetched.length
    await place.fill(`${frame}f`)
    await place.press('Enter')
    const off = async () => Math.abs((await shown(page)) - drawn(frame))
    await expect.poll(off, `frame ${frame}`).toBeLessThan(1.2)
    if (frame === 300) expect(fetched.slice(before).some((name) => name.endsWith('/piece-1.mp4'))).toBe(true)
  }
  expect(fetched.filter((name) => /piece-[023]/.test(name))).toEqual([])
  const near = () => sql`select near from artefacts where near_at is not null order by near_at desc limit 1`
  await expect.poll(async () => (await near())[0]?.near).toBe(700)
  // So is what the pointer is over, in the library and on the reel.
  const card = page.getByRole('button', { name: /^long\.mp4, video/ }).locator('canvas')
  const { x, y, width } = (await card.boundingBox())!
  await page.mouse.move(x + width * 0.1, y + 20)
  await page.mouse.move(x + width * 0.2, y + 20)
  await expect.poll(async () => Math.round((await near())[0]?.near / 15.6)).toBe(10)
  const clip = (await page
    .getByLabel(/^long\.mp4 on Picture 1/)
    .first()
    .boundingBox())!
  await page.mouse.move(clip.x + clip.width * 0.7, clip.y + clip.height / 2)
  await expect.poll(async () => Math.abs((await near())[0]?.near - 546)).toBeLessThan(12)
  await connection.close()
})
