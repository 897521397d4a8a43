import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, h, ref } from 'vue'
import { mount } from '@vue/test-utils'
import { applyCommand, commandSchema, createProject, reelsOf, SAMPLE_RATE, tracksOf } from '@dusk/timeline'
import { PLAYER, useFollowPlay } from '~/features/player/usePlayhead'
import { Player } from '~/features/player/player'
import { CONTROL, openRing } from '~/features/player/ring'
import { StillPlayer } from './tools/desk'
import { HARBOUR, SECOND } from './tools/server'

vi.mock('@dusk/compositor/kernels.wasm?url', () => ({ default: 'kernels.wasm' }))
vi.mock('@dusk/compositor/kernels.shared.wasm?url', () => ({ default: 'kernels.shared.wasm' }))
vi.mock('~/features/player/ring.worklet.ts?worker&url', () => ({ default: 'ring.worklet.js' }))

type Message = { kind: string } & Record<string, unknown>

/** A worker that keeps what it is told and answers when asked to. */
class FakeWorker {
  static made: FakeWorker[] = []
  readonly told: Message[] = []
  onmessage: ((event: { data: unknown }) => void) | null = null
  onerror: unknown = null
  ended = false
  constructor(readonly url: URL) {
    FakeWorker.made.push(this)
  }
  postMessage = (message: Message) => void this.told.push(message)
  terminate = () => void (this.ended = true)
  say = (data: unknown) => this.onmessage?.({ data })
  last = (kind: string) => this.told.findLast((message) => message.kind === kind)
  count = (kind: string) => this.told.filter((message) => message.kind === kind).length
}

/** A sound card that plays what the tests say it has played. */
class SoundCard {
  state = 'running'
  audioWorklet = { addModule: () => Promise.resolve() }
  static volume = { gain: { value: 1 }, connect: (to: unknown) => to }
  createGain = () => SoundCard.volume
  resume = () => Promise.resolve()
  close = () => Promise.resolve()
}

const frame = SECOND / 30
const reel = () => {
  const empty = createProject('Play', { width: 1920, height: 1080, rate: { num: 30, den: 1 } })
  const reelId = reelsOf(empty)[0]!.id
  const track = tracksOf(empty, reelId).find((entry) => entry.kind === 'picture')!
  let project = empty
  for (const command of [
    { type: 'addAsset', asset: HARBOUR },
    {
      type: 'place',
      mode: 'free',
      pieces: [
        {
          clipId: crypto.randomUUID(),
          trackId: track.id,
          assetId: HARBOUR.id,
          start: 0,
          length: 90 * frame,
          source: 0,
          stream: null,
          link: null,
        },
      ],
    },
  ])
    project = applyCommand(project, commandSchema.parse(command), crypto.randomUUID()).project
  return { project, reelId, length: 90 * frame }
}

let player: Player
let mix: FakeWorker
let preview: FakeWorker
let control: Int32Array
/** Lets the sound be heard up to a number of frames of the reel. */
const hear = (frames: number) => {
  Atomics.store(control, CONTROL.played, Math.round((frames / 30) * SAMPLE_RATE))
  vi.advanceTimersByTime(70)
}

beforeEach(() => {
  vi.useFakeTimers()
  vi.spyOn(performance, 'now').mockImplementation(() => Date.now())
  FakeWorker.made = []
  vi.stubGlobal('Worker', FakeWorker)
  vi.stubGlobal('crossOriginIsolated', true)
  vi.stubGlobal('AudioContext', SoundCard)
  vi.stubGlobal(
    'AudioWorkletNode',
    class {
      port = { postMessage: () => {} }
      connect = () => {}
    },
  )
  player = new Player()
  mix = FakeWorker.made[0]!
  control = openRing(mix.told[0]!.ring as SharedArrayBuffer).control
  const canvas = { transferControlToOffscreen: () => ({}) } as unknown as HTMLCanvasElement
  player.attach(canvas)
  preview = FakeWorker.made[1]!
  const { project, reelId, length } = reel()
  player.setDocument(project, reelId, length)
  preview.say({ kind: 'ready' })
})
afterEach(() => {
  player.dispose()
  vi.restoreAllMocks()
  vi.useRealTimers()
})

/** Starts play, and lets both workers say that they are ready. */
async function roll(speed = 1): Promise<void> {
  void player.play(speed)
  await vi.advanceTimersByTimeAsync(800)
  const { run } = mix.last('play') as unknown as { run: number }
  mix.say({ kind: 'filled', run })
  preview.say({ kind: 'primed', run })
}

describe('play', () => {
  it('begins once there is sound and a picture, and not before', async () => {
    void player.play()
    await vi.advanceTimersByTimeAsync(800)
    expect(player.playing.value).toBe(true)
    const { run } = mix.last('play') as unknown as { run: number }
    mix.say({ kind: 'filled', run })
    expect(Atomics.load(control, CONTROL.running)).toBe(0)
    preview.say({ kind: 'primed', run: run - 1 })
    expect(Atomics.load(control, CONTROL.running)).toBe(0)
    preview.say({ kind: 'primed', run })
    expect(Atomics.load(control, CONTROL.running)).toBe(1)
  })

  it('follows what is heard; what is written lags by little, what is done is done exactly there', async () => {
    await roll()
    const places: number[] = []
    const end = player.onFrame((tick) => places.push(tick))
    hear(30)
    expect(player.place()).toBe(30 * frame)
    expect(player.tick.value).toBe(30 * frame)
    Atomics.store(control, CONTROL.played, Math.round((31 / 30) * SAMPLE_RATE))
    vi.advanceTimersByTime(16)
    expect(player.place()).toBe(31 * frame)
    expect(places.at(-1)).toBe(31 * frame)
    end()
    const heard = places.length
    hear(40)
    expect(places).toHaveLength(heard)
  })

  it('stops on a whole frame', async () => {
    await roll()
    hear(20.4)
    player.pause()
    expect(player.playing.value).toBe(false)
    expect(player.tick.value).toBe(20 * frame)
    expect(preview.last('show')).toMatchObject({ tick: 20 * frame })
    expect(Atomics.load(control, CONTROL.running)).toBe(0)
  })

  it('ends at the reel’s end, and begins anew from there', async () => {
    await roll()
    hear(95)
    expect(player.playing.value).toBe(false)
    expect(player.tick.value).toBe(90 * frame)
    await roll()
    expect(mix.last('play')).toMatchObject({ start: 0 })
  })

  it('goes back to the start of a loop', async () => {
    player.setLoop({ from: 30 * frame, to: 60 * frame })
    await roll()
    hear(61)
    expect(player.playing.value).toBe(true)
    expect(mix.last('play')).toMatchObject({ start: 30 * frame, speed: 1 })
  })

  it('runs on beyond the end and over a loop while something is recorded, heard or in silence', async () => {
    player.setLoop({ from: 30 * frame, to: 60 * frame })
    await roll()
    player.pause()
    await player.runOn(10 * frame, false)
    expect(mix.last('play')).toMatchObject({ start: 10 * frame, speed: 1 })
    expect(SoundCard.volume.gain.value).toBe(0)
    hear(61)
    expect(player.playing.value).toBe(true)
    hear(200)
    expect(player.playing.value).toBe(true)
    expect(player.place()).toBeGreaterThan(90 * frame)
    player.pause()
    // What is played next is heard, and ends where the reel does.
    expect(SoundCard.volume.gain.value).toBe(1)
    player.setLoop(null)
    player.seek(0)
    await roll()
    hear(91)
    expect(player.playing.value).toBe(false)
  })

  it('doubles its speed with each press, turns round, and goes on from where it is', async () => {
    await roll()
    hear(40)
    player.shuttle(1)
    await vi.advanceTimersByTimeAsync(800)
    expect(mix.last('play')).toMatchObject({ start: 40 * frame, speed: 2 })
    player.shuttle(1)
    await vi.advanceTimersByTimeAsync(800)
    expect(player.speed.value).toBe(4)
    player.shuttle(-1)
    await vi.advanceTimersByTimeAsync(800)
    expect(player.speed.value).toBe(-1)
  })

  it('ends at the beginning when it goes backwards', async () => {
    player.seek(20 * frame)
    await roll(-1)
    hear(30)
    expect(player.playing.value).toBe(false)
    expect(player.tick.value).toBe(0)
  })

  it('does not play an empty reel', async () => {
    const empty = createProject('Empty', { width: 64, height: 36, rate: { num: 30, den: 1 } })
    player.setDocument(empty, reelsOf(empty)[0]!.id, 0)
    await player.play()
    expect(player.playing.value).toBe(false)
  })

  it('shows how loud it is, falling from peaks', async () => {
    await roll()
    Atomics.store(control, CONTROL.peakLeft, 500_000)
    hear(5)
    expect(player.levels.value[0]).toBeCloseTo(0.5)
    hear(6)
    expect(player.levels.value[0]).toBeLessThan(0.3)
    expect(player.levels.value[0]).toBeGreaterThan(0.2)
  })
})

describe('places', () => {
  it('are whole frames within the reel', () => {
    player.seek(10.4 * frame)
    expect(player.tick.value).toBe(10 * frame)
    player.seek(1e15)
    expect(player.tick.value).toBe(90 * frame)
    const { project, reelId, length } = reel()
    // The reel has room behind its end; a key that goes to the end goes there.
    player.setDocument(project, reelId, length, 30 * frame)
    player.seek(1e15)
    expect(player.tick.value).toBe(120 * frame)
    expect(preview.last('show')).toMatchObject({ tick: 120 * frame })
    player.seek(Infinity)
    expect(player.tick.value).toBe(90 * frame)
    expect(preview.last('show')).toMatchObject({ tick: 90 * frame - 1 })
    player.setDocument(project, reelId, length)
    player.seek(-5)
    expect(player.tick.value).toBe(0)
    player.step(7)
    player.step(-2)
    expect(player.tick.value).toBe(5 * frame)
  })

  it('may be shown without going there', () => {
    player.seek(10 * frame)
    player.peek(33 * frame)
    expect(preview.last('show')).toMatchObject({ tick: 33 * frame })
    expect(player.tick.value).toBe(10 * frame)
    player.refresh()
    expect(preview.last('show')).toMatchObject({ tick: 10 * frame })
  })
})

describe('what workers are told', () => {
  it('is only what differs from what they hold', () => {
    const { project, reelId, length } = reel()
    player.setDocument(project, reelId, length)
    const renamed = applyCommand(
      project,
      commandSchema.parse({ type: 'renameProject', name: 'Dusk' }),
      crypto.randomUUID(),
    ).project
    player.setDocument(renamed, reelId, length)
    for (const worker of [mix, preview]) expect(JSON.stringify(worker.last('document')).length).toBeLessThan(400)
  })

  it('is tried out by the viewer alone, and taken back', () => {
    const { project, reelId, length } = reel()
    player.setDocument(project, reelId, length)
    const [documents, sounds] = [preview.count('document'), mix.count('document')]
    const trial = applyCommand(
      project,
      commandSchema.parse({ type: 'renameProject', name: 'Trial' }),
      crypto.randomUUID(),
    ).project
    player.tryOut(trial)
    player.tryOut(null)
    expect(preview.count('document')).toBe(documents + 2)
    expect(mix.count('document')).toBe(sounds)
    expect(JSON.stringify(preview.last('document'))).toContain('"Play"')
  })

  it('is told anew, as a whole, to a viewer that begins later', () => {
    player.attach({ transferControlToOffscreen: () => ({}) } as unknown as HTMLCanvasElement)
    const later = FakeWorker.made[2]!
    expect(preview.ended).toBe(true)
    later.say({ kind: 'ready' })
    expect(JSON.stringify(later.last('document'))).toContain(HARBOUR.id)
  })
})

describe('what is asked of the viewer', () => {
  it('is answered, or refused in words', async () => {
    const grabbed = player.captureFrame(0, 1920, 1080)
    const { id } = preview.last('captureFrame') as unknown as { id: number }
    const png = new Blob(['png'])
    preview.say({ kind: 'frame', id, png })
    expect(await grabbed).toBe(png)
    const refused = player.captureFrame(0, 1920, 1080)
    preview.say({ kind: 'refused', id: id + 1, message: 'harbour-wide.mp4 can’t be decoded.' })
    await expect(refused).rejects.toThrow('harbour-wide.mp4')
  })

  it('is not asked for sketches while it plays', async () => {
    await roll()
    expect(await player.thumbnail({} as never)).toBeNull()
    expect(preview.last('thumbnail')).toBeUndefined()
  })

  it('is said when the viewer fails', () => {
    preview.say({ kind: 'failed', message: 'A frame could not be decoded.' })
    expect(player.failure.value).toBe('A frame could not be decoded.')
  })
})

describe('what moves along with play', () => {
  /** An element whose moves are kept instead of drawn. */
  function following() {
    const still = new StillPlayer()
    const moves: { from: string; to: string; cancelled: boolean; currentTime: number }[] = []
    const scale = ref(100)
    const Host = defineComponent(() => {
      const line = ref<HTMLElement | null>(null)
      useFollowPlay(line, (tick) => (tick / SECOND) * scale.value)
      return () => h('i', { ref: line })
    })
    const wrapper = mount(Host, { global: { provide: { [PLAYER as symbol]: still } } })
    wrapper.element.animate = ((frames: { transform: string }[]) => {
      const move = { from: frames[0]!.transform, to: frames[1]!.transform, cancelled: false, currentTime: 0 }
      moves.push(move)
      return Object.assign(move, { cancel: () => (move.cancelled = true) })
    }) as never
    const at = (seconds: number) => still.listeners.forEach((listener) => listener(seconds * SECOND))
    return { still, moves, scale, wrapper, at }
  }

  it('is sent on its way once, and again only when it is off', () => {
    const { moves, at, scale, still } = following()
    still.playing.value = true
    at(1)
    expect(moves).toMatchObject([{ from: 'translateX(100px)', to: 'translateX(500px)' }])
    moves[0]!.currentTime = 500
    at(1.5)
    expect(moves).toHaveLength(1)
    // A zoom changes where it is and how fast it goes.
    scale.value = 200
    at(1.5)
    expect(moves).toHaveLength(2)
    expect(moves[0]!.cancelled).toBe(true)
    moves[1]!.currentTime = 500
    // A jump.
    at(9)
    expect(moves.at(-1)!.from).toBe('translateX(1800px)')
    expect(moves).toHaveLength(3)
  })

  it('is let go when play stops, and when it is gone', () => {
    const { moves, at, still, wrapper } = following()
    still.playing.value = true
    at(1)
    still.playing.value = false
    expect(moves[0]!.cancelled).toBe(true)
    still.playing.value = true
    at(2)
    wrapper.unmount()
    expect(moves[1]!.cancelled).toBe(true)
    expect(still.listeners.size).toBe(0)
  })
})
