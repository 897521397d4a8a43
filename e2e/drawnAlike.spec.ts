import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { GENERATORS, MOVES, PICTURE_EFFECTS, TRANSITIONS } from '@dusk/compositor'
import { BLEND_MODES } from '@dusk/timeline'
import { SECOND, Studio } from './tools/api'
import { ffmpeg, folder } from './tools/media'

const RATE = { num: 30, den: 1 }
const [W, H] = [480, 270]
const f = (frame: number) => (frame * SECOND) / 30

/**
 * One reel that holds every transition, blend mode and effect three times side by side, and titles, shapes, edges and
 * motion blur: three tracks lie next to each other, each a few frames later than the one before.
 */
test('the browser and the renderer draw every transition, blend, effect and title alike, byte for byte', async ({
  page,
  baseURL,
}) => {
  const studio = new Studio(baseURL!)
  const dir = folder()
  const id = await studio.createProject('Drawn alike', W, H, RATE)
  const dusk = join(dir, 'dusk.png')
  const day = join(dir, 'day.png')
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'gradients=s=480x270:c0=0x2b1f4d:c1=0xd8724a:x0=0:y0=0:x1=480:y1=270:d=1',
    '-frames:v',
    '1',
    dusk,
  )
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=480x270,format=rgba,colorchannelmixer=aa=0.8', '-frames:v', '1', day)
  const [from, to] = await Promise.all([studio.upload(id, dusk), studio.upload(id, day)])
  const state = await studio.ready(id, [from, to])
  const reelId = Object.keys(state.project.reels)[0]!
  const ids = () => crypto.randomUUID()
  const tracks = [ids(), ids(), ids()]
  const ground = Object.values(state.project.tracks).find((track) => track.name === 'Picture 1')!.id
  const commands: unknown[] = []
  for (const [i, trackId] of tracks.entries()) {
    commands.push({ type: 'addTrack', reelId, trackId, purpose: 'picture' })
    commands.push({ type: 'setTrackParams', trackId, set: { size: 32, position: [(i - 1) * 160, 0], rotation: i * 4 } })
  }
  const at: { name: string; frame: number }[] = []

  // Shots of a second each; the cuts of the three tracks are five frames apart, so one frame shows three points.
  const shots = TRANSITIONS.length + 1
  for (const [i, trackId] of tracks.entries()) {
    const offset = (i - 1) * 5 + 10
    const pieces = Array.from({ length: shots }, (_, n) => ({
      clipId: ids(),
      trackId,
      assetId: n % 2 ? to : from,
      stream: null,
      start: f(n * 30 + offset),
      length: f(30),
      source: 0,
      link: null,
    }))
    commands.push({ type: 'place', mode: 'free', pieces })
    commands.push({
      type: 'addTransitions',
      transitions: TRANSITIONS.map((kind, n) => ({
        id: ids(),
        leftId: pieces[n]!.clipId,
        rightId: pieces[n + 1]!.clipId,
        before: f(9),
        after: f(9),
        kind: kind.id,
        settings: {},
        missing: 'hold',
      })),
    })
  }
  TRANSITIONS.forEach((kind, n) => at.push({ name: kind.name, frame: (n + 1) * 30 + 10 }))

  let begin = shots * 30 + 30
  const still = (trackId: string, assetId: string, frame: number, length: number) => ({
    clipId: ids(),
    trackId,
    assetId,
    stream: null,
    start: f(frame),
    length: f(length),
    source: 0,
    link: null,
  })
  for (const mode of BLEND_MODES) {
    const pieces = [still(ground, from, begin, 4), ...tracks.map((trackId) => still(trackId, to, begin, 4))]
    commands.push({ type: 'place', mode: 'free', pieces })
    tracks.forEach((_, i) =>
      commands.push({
        type: 'setParams',
        clipIds: [pieces[i + 1]!.clipId],
        set: { blend: mode, opacity: [100, 60, 25][i] },
      }),
    )
    at.push({ name: mode, frame: begin + 2 })
    begin += 4
  }

  for (const kind of PICTURE_EFFECTS) {
    const pieces = tracks.map((trackId, i) => still(trackId, i === 1 ? to : from, begin, 4))
    commands.push({ type: 'place', mode: 'free', pieces })
    const looks = [
      { settings: {}, strength: 100 },
      { settings: kind.presets[0]?.settings ?? {}, strength: 45 },
      { settings: kind.presets.at(-1)?.settings ?? {}, strength: 100 },
    ]
    pieces.forEach(({ clipId }, i) =>
      commands.push({
        ...{ type: 'addEffects', owner: 'clip', ownerIds: [clipId] },
        effects: [{ domain: 'picture', kind: kind.id, ...looks[i] }],
      }),
    )
    at.push({ name: kind.name, frame: begin + 2 })
    begin += 4
  }

  // Every shape of a mask, on a colour and on what draws, on clip and track at once.
  const k = 22
  const outline = [
    [0, -40, -k, 0, k, 0],
    [30, 10, 0, -k, 0, k],
    [-30, 30, 8, 8, -8, -8],
  ]
  const shapes = {
    rectangle: { settings: { size: [50, 40], rotation: 17, corner: 20, inner: 6 } },
    ellipse: { settings: { size: [60, 70], outer: 30, opacity: 80 } },
    pen: { settings: { grow: 4 }, path: [{ at: 0, ease: 'both', points: outline }] },
    straight: { settings: { rotation: 33, length: 70 } },
    radial: { settings: { size: [80, 90], invert: true } },
    brush: {
      settings: {},
      strokes: [
        {
          radius: 9,
          erase: false,
          places: [
            [-30, -20],
            [10, 5],
            [30, -30],
          ],
        },
      ],
    },
  }
  for (const [n, [kind, rest]] of Object.entries(shapes).entries()) {
    const pieces = tracks.map((trackId, i) => still(trackId, i === 1 ? to : from, begin, 4))
    commands.push({ type: 'place', mode: 'free', pieces })
    const mask = { shapes: [{ id: ids(), kind, mode: n % 2 ? 'subtract' : 'add', ...rest }] }
    const one = (effect: string, settings = {}) => ({ domain: 'picture', kind: effect, settings, strength: 90, mask })
    const looks = [one('wheels', { shadowsTint: [60, -40], lightsLevel: 30 }), one('blur'), one('cutAway')]
    pieces.forEach(({ clipId }, i) =>
      commands.push({ type: 'addEffects', owner: 'clip', ownerIds: [clipId], effects: [looks[i]] }),
    )
    at.push({ name: `mask: ${kind}`, frame: begin + 2 })
    begin += 4
  }

  const made = (trackId: string, own: object, params = {}, length = 30) => ({
    type: 'addGenerated',
    mode: 'free',
    generated: [{ ...own, clipId: ids(), trackId, start: f(begin), length: f(length), params }],
  })
  const title = (text: string, style: object, move: object | null = null) => ({
    kind: 'title',
    title: {
      text,
      style,
      runs: [{ from: 0, to: 3, style: { colour: '#ff9e5e', weight: 900 } }],
      in: move,
      out: null,
      during: null,
    },
  })
  for (const kind of GENERATORS.filter(({ family }) => family === 'particles')) {
    commands.push(
      ...tracks.map((trackId, i) =>
        made(trackId, {
          ...{ kind: 'generator', generator: kind.id },
          settings: kind.presets[i - 1]?.settings ?? {},
        }),
      ),
    )
    at.push({ name: kind.name, frame: begin + 21 })
    begin += 30
  }
  for (let n = 0; n + 2 < MOVES.length; n += 3) {
    tracks.forEach((trackId, i) => {
      const move = {
        move: MOVES[n + i]!.id,
        length: f(40),
        unit: ['letter', 'word', 'line'][i],
        order: ['random', 'inward', 'forward'][i],
        overlap: 70,
        settings: {},
      }
      commands.push(
        made(
          trackId,
          title(
            'Lantern night\nat the quay',
            {
              size: 120,
              font: ['Fraunces', 'Caveat', 'Unbounded'][i],
              glow: i * 8,
              letterShadow: 70,
              outline: i * 2,
              box: 60,
              fill: i === 1 ? 'gradient' : 'plain',
            },
            move,
          ),
        ),
      )
    })
    at.push({ name: `moves from ${MOVES[n]!.name}`, frame: begin + 17 })
    begin += 32
  }
  const drawn = [
    ['countdown', {}, {}],
    ['bubble', { width: 200, height: 120 }, { rotation: 20, shadow: 80, blend: 'multiply' }],
    ['sticker', { text: '🏮⚓', size: 150 }, { cropLeft: 20, cornerRadius: 20, border: 4, cropFeather: 3 }],
    [
      'halo',
      {},
      {
        size: 60,
        cornerRadius: 40,
        reflection: 60,
        shadow: 90,
        position: {
          keys: [
            { at: 0, value: [-80, 0], ease: 'linear' },
            { at: f(30), value: [200, 60], ease: 'both' },
          ],
        },
        shutterAngle: 180,
        shutterSamples: 5,
      },
    ],
    ['swell', {}, { rotation: 12, stretch: 70, flipHorizontal: true }],
    ['spotlight', {}, { anchor: [10, 90], size: 70, rotation: -30 }],
  ] as const
  for (const [generator, settings, params] of drawn) {
    commands.push(made(tracks[1]!, { kind: 'generator', generator, settings }, params))
    at.push({ name: generator, frame: begin + 11 })
    begin += 32
  }
  commands.push({ type: 'place', mode: 'free', pieces: [still(ground, from, begin, 30)] })
  commands.push(made(tracks[2]!, { kind: 'adjustment' }, { size: 50, rotation: 15, cornerRadius: 30 }))
  at.push({ name: 'an adjustment', frame: begin + 3 })
  begin += 32
  for (const words of ['שלום Привет नमस्ते สวัสดี 🌊', '港の灯り', '등불 축제', '灯火阑珊']) {
    commands.push(made(tracks[1]!, title(words, { size: 90 })))
    at.push({ name: words, frame: begin + 3 })
    begin += 32
  }

  const { outcomes } = await studio.edit(id, ...commands)
  expect(outcomes.filter((outcome) => outcome.refused)).toEqual([])
  // Each fifth of them; `./dusk test --long` compares all.
  const asked = process.env.DUSK_LONG ? at : at.filter((_, i) => i % 5 === 0)

  await page.goto(`/projects/${id}`)
  const position = page.getByLabel(/^Position\./)
  const browser: Buffer[] = []
  for (const { frame } of asked) {
    await position.fill(`${frame}f`)
    await position.press('Enter')
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Save this frame as a picture' }).click()
    const png = join(dir, `frame-${frame}.png`)
    await (await download).saveAs(png)
    browser.push(ffmpeg('-i', png, '-f', 'rawvideo', '-pix_fmt', 'rgba', 'pipe:1'))
  }
  const request = join(dir, 'request.json')
  const raw = join(dir, 'frames.rgba')
  writeFileSync(
    request,
    JSON.stringify({ projectId: id, reelId, size: { width: W, height: H }, ticks: asked.map(({ frame }) => f(frame)) }),
  )
  execFileSync('node', ['--import', 'tsx', 'e2e/tools/frames.ts', request, raw], { env: process.env })
  const rendered = readFileSync(raw)
  const size = W * H * 4
  const pictures = new Set<string>()
  const differing: string[] = []
  for (const [i, { name }] of asked.entries()) {
    const [theirs, ours] = [browser[i]!, rendered.subarray(i * size, (i + 1) * size)]
    pictures.add(ours.toString('base64', size / 3, size / 3 + 6000))
    if (Buffer.compare(theirs, ours) === 0) continue
    let [pixels, largest, first] = [0, 0, -1]
    for (let k = 0; k < size; k++) {
      const by = Math.abs(theirs[k]! - ours[k]!)
      if (by > 0 && first < 0) first = k >> 2
      if (by > 0) pixels++
      largest = Math.max(largest, by)
    }
    differing.push(`${name}: ${pixels} values, by ${largest} at most, first at ${first % W}, ${Math.floor(first / W)}`)
  }
  expect(differing).toEqual([])
  // They are not all the same picture, nor most of them empty.
  expect(pictures.size).toBeGreaterThan(asked.length * 0.8)
})
