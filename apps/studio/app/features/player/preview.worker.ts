import {
  bandHelp,
  Compositor,
  createBandEngine,
  createEngine,
  withoutHidden,
  type VectorRenderer,
  type Engine,
  type Picture,
} from '@dusk/compositor'
import {
  applyDelta,
  FramePlanner,
  frameToTicks,
  needsDrawing,
  pictureLayers,
  TICKS_PER_SAMPLE,
  ticksToFrame,
  withoutEffects,
  type FramePlan,
  type Project,
  type TitleLayer,
} from '@dusk/timeline'
import { isTrap } from '@dusk/sound/trap'
import { loadCubes } from './cubeFiles'
import { CONTROL, openRing, type Ring } from './ring'
import type { PlayOrder, PreviewReply, PreviewRequest, TitleLayoutRequest } from './messages'
import { SourcePictures } from './sourcePictures'
import { ViewerCanvas } from './viewerCanvas'

/** How far ahead of play the next shot's decoder is opened, in frames of the reel. */
const AHEAD = 18

let compositor: Compositor | null = null
let pictures: SourcePictures | null = null
let canvas: ViewerCanvas | null = null
let ring: Ring | null = null
let project: Project | null = null
let reelId = ''
let planner: FramePlanner | null = null
let size = { width: 960, height: 540 }
let wanted: { tick: number; running: boolean } | readonly FramePlan[] | null = null
/** The place that is on the canvas. */
let shownTick = -1
/** Counts what was asked to be shown: what was drawn for an earlier one is not shown any more. */
let asked = 0
let order: PlayOrder | null = null
let busy = false
/** What is on the canvas, so that it is not drawn twice. */
let onCanvas = ''
/** Memory through which a second drawing thread is reached, when there is one. */
let bands: SharedArrayBuffer | null = null
let stats = { shown: 0, dropped: 0, late: 0, worstLag: 0 }

function say(reply: PreviewReply): void {
  postMessage(reply)
}

function paint(plan: FramePlan, picture: Picture, found: readonly (Picture | null)[]): void {
  canvas?.paint(picture, () => compositor!.compose(withoutEffects(plan), found))
}

/** Kernels on this thread alone, or with a second one that takes half of what is large. */
async function startEngine(kernels: { alone: string; shared: string }, threads: number): Promise<Engine> {
  const fetched = async (url: string) => (await fetch(url)).arrayBuffer()
  if (threads < 2) return createEngine(await fetched(kernels.alone))
  const { engine, share } = await createBandEngine(await fetched(kernels.shared))
  const helper = new Worker(new URL('./bands.worker.ts', import.meta.url), { type: 'module' })
  helper.postMessage(share)
  bands = share.control
  return engine
}

/** Kept when there are kernels and a document to draw: what is asked for before then waits for it. */
let stand: () => void
const standing = new Promise<void>((resolve) => (stand = resolve))

let room: Promise<VectorRenderer> | null = null

/** Words and shapes need the drawing room and their fonts before a plan can be drawn, effects their files. */
async function makeReady(plan: FramePlan, target: Compositor): Promise<void> {
  await loadCubes(plan, target)
  if (!needsDrawing(plan)) return
  if (!target.drawing) {
    room ??= import('./vectorRenderer').then(({ browserVectorRenderer }) => browserVectorRenderer(target.engine))
    room.catch(() => (room = null))
    target.drawing = await room
  }
  await target.drawing!.prepare(plan)
}

/** A drawing room whose module trapped is thrown away: the next words are drawn in a fresh one. */
function afterTrap(error: unknown): void {
  if (!isTrap(error)) return
  room = null
  if (compositor) compositor.drawing = null
}

async function draw(tick: number, running: 'forward' | 'backward' | 'still'): Promise<void> {
  if (!planner || !compositor || !pictures) return
  const plan = withoutHidden(planner.plan(tick, size))
  const layers = pictureLayers(plan)
  const found = await pictures.pictures(layers, 'viewer', running)
  await makeReady(plan, compositor)
  const key = JSON.stringify(plan) + found.map((picture) => (picture ? '1' : '0')).join('')
  if (key === onCanvas && running === 'still') return
  paint(plan, compositor.compose(plan, found), found)
  onCanvas = found.includes(null) ? '' : key
}

/** Frames side by side, as on both sides of a cut that is being trimmed. */
async function drawBeside(plans: readonly FramePlan[]): Promise<void> {
  if (!compositor || !pictures || !canvas) return
  onCanvas = ''
  canvas.clear(size.width, size.height)
  for (const [n, plan] of plans.entries()) {
    const found = await pictures.pictures(pictureLayers(plan), `split ${n}`, 'still')
    await makeReady(plan, compositor)
    const x = Math.round((n * size.width) / plans.length)
    canvas.put(compositor.compose(plan, found), x, Math.round((size.height - plan.height) / 2))
  }
}

/** Shows the newest place asked for; places asked for meanwhile are passed over. */
async function showWanted(): Promise<void> {
  if (busy) return
  busy = true
  try {
    while (wanted !== null && !order) {
      const next = wanted
      wanted = null
      const began = performance.now()
      if (!('tick' in next)) await drawBeside(next)
      else {
        await draw(next.tick, next.running ? 'forward' : 'still')
        shownTick = next.tick
        const helped = bands ? bandHelp(bands).pieces : 0
        say({ kind: 'shown', tick: next.tick, ms: performance.now() - began, helped })
      }
    }
  } catch (error) {
    afterTrap(error)
    say({ kind: 'failed', message: (error as Error).message })
  } finally {
    busy = false
  }
  if (wanted !== null && !order) void showWanted()
}

/** Reel position that is heard now. */
function heard(playing: PlayOrder): number {
  const played = Math.max(0, Atomics.load(ring!.control, CONTROL.played) - playing.latency)
  return Math.max(0, playing.start + Math.round(played * TICKS_PER_SAMPLE * playing.speed))
}

const nextFrame = () => new Promise<void>((resolve) => requestAnimationFrame(() => resolve()))

const breather = new MessageChannel()
/** Lets messages in, and no more: for when the next picture is due already. */
const breath = () =>
  new Promise<void>((resolve) => {
    breather.port1.onmessage = () => resolve()
    breather.port2.postMessage(null)
  })

/** Follows the sound: each turn shows the frame that belongs to what is heard, and drops those it was too late for. */
async function play(playing: PlayOrder): Promise<void> {
  // Play may be asked for before the kernels and the document have come.
  while (busy || (order === playing && !(planner && compositor))) await nextFrame()
  if (order !== playing) return
  busy = true
  stats = { shown: 0, dropped: 0, late: 0, worstLag: 0 }
  let last = -1
  let told = performance.now()
  try {
    // The first picture is on the canvas, and its decoder running, before the sound may start.
    if (order === playing) await draw(playing.start, playing.speed < 0 ? 'backward' : 'forward')
    say({ kind: 'primed', run: playing.run })
    while (order === playing && planner && project) {
      const { rate } = project.reels[reelId]!.format
      const frame = ticksToFrame(heard(playing), rate)
      if (frame !== last) {
        const running = playing.speed < 0 ? 'backward' : Math.abs(playing.speed) > 4 ? 'still' : 'forward'
        const tick = frameToTicks(frame, rate)
        await draw(tick, running)
        if (order !== playing) break
        const passed = Math.abs(frame - last) - Math.max(1, Math.round(Math.abs(playing.speed)))
        if (last >= 0 && passed > 0) stats.dropped += passed
        stats.shown++
        // How far the picture that just appeared is behind what is heard at this moment.
        const lag = Math.abs(ticksToFrame(heard(playing), rate) - frame)
        stats.worstLag = Math.max(stats.worstLag, lag)
        if (lag > 1) stats.late++
        last = frame
        if (playing.speed > 0) {
          const ahead = withoutHidden(planner.plan(tick + frameToTicks(Math.round(AHEAD * playing.speed), rate), size))
          for (const layer of pictureLayers(ahead)) pictures!.prepare(layer, AHEAD).catch(() => {})
        }
        if (performance.now() - told > 500) {
          told = performance.now()
          say({ kind: 'stats', ...stats })
        }
      }
      if (ticksToFrame(heard(playing), rate) === last) await nextFrame()
      else await breath()
    }
  } catch (error) {
    afterTrap(error)
    say({ kind: 'failed', message: (error as Error).message })
  } finally {
    busy = false
    say({ kind: 'stats', ...stats })
  }
  if (wanted !== null && !order) void showWanted()
}

/** Most letters without a font that are shown where they are. */
const MISSING_SHOWN = 40

/** Answers where a title's letters are. */
async function titleLayout(id: number, ask: TitleLayoutRequest): Promise<void> {
  await standing
  try {
    await makeReady(wordsPlan(ask.layer), compositor!)
    const drawing = compositor!.drawing!
    const measure = drawing.measure(ask.layer)
    say({
      kind: 'titleLayout',
      id,
      answer: {
        measure,
        missing: measure.missing
          .slice(0, MISSING_SHOWN)
          .flatMap(({ at, letter }) => drawing.rangeRects(ask.layer, at, at + letter.length)),
        rects: ask.range ? drawing.rangeRects(ask.layer, ...ask.range) : [],
        letter: ask.at ? drawing.letterAt(ask.layer, ...ask.at) : null,
      },
    })
  } catch (error) {
    afterTrap(error)
    say({ kind: 'refused', id, message: (error as Error).message })
  }
}

/** A plan that holds nothing but a title, to have its fonts read. */
function wordsPlan(layer: TitleLayer): FramePlan {
  return { width: layer.width, height: layer.height, background: null, layers: [layer], passThrough: false }
}

/** Sketches wait in line: they share the decoders with the viewer, which comes first. */
let drawingThumbnails: Promise<void> = Promise.resolve()
let sketcher: Compositor | null = null

/** A small frame for a gallery. */
async function thumbnail(id: number, plan: FramePlan): Promise<void> {
  let picture: ImageBitmap | null = null
  try {
    if (compositor && pictures && !order) {
      sketcher ??= new Compositor(compositor.engine)
      const layers = pictureLayers(plan)
      const found = await pictures.pictures(layers, 'thumbnail', 'still')
      await makeReady(plan, sketcher)
      if (!found.includes(null)) {
        const pixels = sketcher.compose(plan, found).pixels().slice()
        picture = await createImageBitmap(new ImageData(new Uint8ClampedArray(pixels.buffer), plan.width, plan.height))
      }
    }
  } catch {
    // A gallery picture that can't be drawn stays empty; the viewer says what is wrong with a source.
  }
  if (picture) postMessage({ kind: 'thumbnail', id, picture } satisfies PreviewReply, { transfer: [picture] })
  else say({ kind: 'thumbnail', id, picture: null })
}

/**
 * Draws a frame from originals.
 * @param take is given what was drawn, good until it returns
 * @throws {Error} in words when a picture of it can't be had
 */
async function withOriginals(
  tick: number,
  size: { width: number; height: number },
  take: (plan: FramePlan, picture: Picture, found: readonly Picture[]) => void,
): Promise<void> {
  await standing
  if (!planner || !compositor || !pictures || !project) throw new Error('The reel is no longer there.')
  const found: Picture[] = []
  const own = new Compositor(compositor.engine)
  try {
    const plan = withoutHidden(planner.plan(tick, size))
    for (const layer of pictureLayers(plan))
      found.push(await pictures.original(layer, project.assets[layer.assetId]?.name ?? 'A source'))
    await makeReady(plan, own)
    take(plan, own.compose(plan, found), found)
  } finally {
    own.release()
    for (const picture of found) picture.release()
  }
}

/** A frame at full size from originals, as a PNG. */
async function captureFrame(id: number, tick: number, width: number, height: number): Promise<void> {
  try {
    const sheet = new OffscreenCanvas(width, height)
    await withOriginals(tick, { width, height }, (_, picture) => {
      const pixels = new Uint8ClampedArray(picture.pixels().slice().buffer)
      sheet.getContext('2d')!.putImageData(new ImageData(pixels, width, height), 0, 0)
    })
    say({ kind: 'frame', id, png: await sheet.convertToBlob({ type: 'image/png' }) })
  } catch (error) {
    afterTrap(error)
    say({ kind: 'refused', id, message: (error as Error).message })
  }
}

/** Draws the place that stands there sharper, unless another was asked for meanwhile. */
async function sharpen(tick: number, width: number, height: number): Promise<void> {
  const mine = asked
  const stands = () => mine === asked && !order && !busy && wanted === null && shownTick === tick
  try {
    if (stands())
      await withOriginals(tick, { width, height }, (plan, picture, found) => {
        if (!stands()) return
        paint(plan, picture, found)
        onCanvas = ''
      })
  } catch {
    // An original that the browser can't read stays as its preview shows it.
  }
}

self.onmessage = async ({ data }: MessageEvent<PreviewRequest>) => {
  switch (data.kind) {
    case 'start': {
      canvas = new ViewerCanvas(data.canvas, (scopes) => {
        const buffers = [scopes.histogram.buffer, scopes.waveform.buffer, scopes.vector.buffer]
        postMessage({ kind: 'scopes', scopes } satisfies PreviewReply, { transfer: buffers })
      })
      ring = openRing(data.ring)
      const engine = await startEngine(data.kernels, data.threads)
      compositor = new Compositor(engine)
      compositor.inspecting = true
      pictures = new SourcePictures(engine)
      if (planner) stand()
      say({ kind: 'ready' })
      return
    }
    case 'document':
      project = applyDelta(project, data.delta)
      reelId = data.reelId
      planner = project.reels[reelId]
        ? new FramePlanner(project, reelId, (segment) => pictures?.made(segment) ?? false)
        : null
      if (planner && compositor) stand()
      onCanvas = ''
      return
    case 'sources':
      pictures?.update(data.sources)
      onCanvas = ''
      return
    case 'size':
      size = { width: data.width, height: data.height }
      return
    case 'show':
      wanted = { tick: data.tick, running: data.running ?? false }
      asked++
      if (!order) void showWanted()
      return
    case 'splitView':
      wanted = data.plans
      asked++
      if (!order) void showWanted()
      return
    case 'sharpen':
      void sharpen(data.tick, data.width, data.height)
      return
    case 'play':
      asked++
      order = { start: data.start, speed: data.speed, latency: data.latency, run: data.run }
      void play(order)
      return
    case 'pause':
      order = null
      return
    case 'looking':
      if (canvas) canvas.looking = { scopes: data.scopes, zebra: data.zebra, bareTo: data.bareTo }
      onCanvas = ''
      return
    case 'titleLayout':
      void titleLayout(data.id, data.ask)
      return
    case 'thumbnail':
      drawingThumbnails = drawingThumbnails.then(() => thumbnail(data.id, data.plan))
      return
    case 'captureFrame':
      void captureFrame(data.id, data.tick, data.width, data.height)
  }
}
