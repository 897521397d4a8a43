import { availableParallelism, cpus, totalmem } from 'node:os'
import { performance } from 'node:perf_hooks'
import type { Storage, StoragePlace } from '@dusk/media'
import { ChunkDrawer, type ChunkWork } from './chunkDrawer'
import { runLane } from './chunkLane'
import type { Chunk } from './chunks'
import type { ChunkSupply } from './chunkSupply'
import type { FilmShelf } from './filmShelf'
import type { FromThread, ToThread } from './chunkMessages'
import { onThread } from './renderThread'

/** Memory that a lane takes: its decoders' frames, stills and canvases. Bytes, of which some for each output pixel. */
const LANE_BYTES = 350 * 1024 ** 2
const LANE_BYTES_A_PIXEL = 120
/** Part of the machine's memory that all lanes may take. */
const MEMORY = 0.4
/** Frames below which another thread is slower to start than it is of help. */
const WORTH = 90

/** Bytes of memory that this process may take: the machine's, or less where it was given less. */
function memoryHere(): number {
  const given = process.constrainedMemory()
  return given > 0 ? Math.min(given, totalmem()) : totalmem()
}

/** How many lanes draw side by side: as many as there are processors, memory and chunks for. */
export function laneCount(
  chunks: readonly { first: number; end: number }[],
  shape: { width: number; height: number },
  machine = { processors: availableParallelism(), memory: memoryHere() },
): number {
  const frames = chunks.reduce((sum, { first, end }) => sum + end - first, 0)
  if (frames < WORTH) return 1
  const fits = Math.floor((machine.memory * MEMORY) / (LANE_BYTES + LANE_BYTES_A_PIXEL * shape.width * shape.height))
  return Math.max(1, Math.min(machine.processors, fits, chunks.length))
}

/** What was seen of the machine for a while. */
export interface Watched {
  /** Part of its processors that lay idle. */
  idle: number
  /** Part of the time that the first lane's own thread was at work. */
  drawing: number
}

/** Part of its time from which on a lane waits for its own drawing, and idle part that another lane can make use of. */
const BOUND = 0.75
const SPARE = 0.12
/** Idle part that it takes where decoders and the encoder are what is waited for: another lane starts more of them. */
const IDLE = 0.3

/**
 * Whether another lane would be of use. Where drawing is the larger part it always is, as long as a processor has room.
 * Where decoders and the encoder keep processors busy, it would only have footage sought and decoded twice.
 * @param before what was seen the time before: a moment's rest, as while decoders start, says nothing
 */
export function laneHelps(now: Watched, before: Watched | null): boolean {
  if (now.drawing > BOUND) return now.idle > SPARE
  return now.idle > IDLE && before !== null && before.idle > IDLE
}

/** Milliseconds that the machine is watched before another lane joins in. */
const WATCH_MS = 1500

/**
 * Draws and encodes chunks, several at once where that is faster and the machine allows: one lane here, others on
 * threads of their own, each with its decoders.
 * @param chunks all that are to be made, which says how many lanes are worth it
 * @param options.lanes so many from the start, instead of as many as turn out to be of use
 * @param options.films that are open already
 * @throws what the first lane that fails throws; the others are stopped then
 */
export async function drawChunks(
  work: ChunkWork,
  chunks: readonly Chunk[],
  supply: ChunkSupply,
  storage: Storage,
  options: { signal?: AbortSignal; lanes?: number; films?: FilmShelf } = {},
): Promise<void> {
  if (chunks.length === 0) return
  const stop = new AbortController()
  const signal = options.signal ? AbortSignal.any([options.signal, stop.signal]) : stop.signal
  const running: Promise<void>[] = []
  const begin = () => {
    const lane = supply.addLane()
    const done =
      lane > 0
        ? laneThread(work, storage.place, supply, lane, signal)
        : ChunkDrawer.create(work, storage, options.films).then((drawer) =>
            runLane(drawer, () => supply.next(lane), {
              signal,
              drew: (task) => supply.drew(task),
              made: (task) => supply.made(task),
            }),
          )
    done.catch((error: Error) => stop.abort(error))
    running.push(done)
  }
  for (let lane = 0; lane < (options.lanes ?? 1); lane++) begin()
  const most = options.lanes ? 0 : laneCount(chunks, work.shape)
  const watching = most > 1 && watchLoad(() => running.length < most && supply.left > 1 && begin())
  // All have ended before this does: nobody draws on when the caller tidies up.
  for (let i = 0; i < running.length; i++) await running[i]!.catch(() => {})
  if (watching) clearInterval(watching)
  options.signal?.throwIfAborted()
  if (stop.signal.aborted) throw stop.signal.reason
}

/** Asks for another lane whenever one would be of use. */
function watchLoad(more: () => void): ReturnType<typeof setInterval> {
  let times = processorTimes()
  let loop = performance.eventLoopUtilization()
  let before: Watched | null = null
  return setInterval(() => {
    const [nowTimes, nowLoop] = [processorTimes(), performance.eventLoopUtilization()]
    const now = {
      idle: (nowTimes.idle - times.idle) / Math.max(1, nowTimes.all - times.all),
      drawing: performance.eventLoopUtilization(nowLoop, loop).utilization,
    }
    if (laneHelps(now, before)) more()
    ;[times, loop, before] = [nowTimes, nowLoop, now]
  }, WATCH_MS)
}

/** Milliseconds that the machine's processors were idle, and in all. */
function processorTimes(): { idle: number; all: number } {
  const times = cpus().map(({ times: { user, nice, sys, idle, irq } }) => ({
    idle,
    all: user + nice + sys + idle + irq,
  }))
  return { idle: times.reduce((sum, one) => sum + one.idle, 0), all: times.reduce((sum, one) => sum + one.all, 0) }
}

/** Draws and encodes chunks on a thread of its own. */
function laneThread(
  work: ChunkWork,
  place: StoragePlace,
  supply: ChunkSupply,
  lane: number,
  signal: AbortSignal,
): Promise<void> {
  return onThread<ToThread, FromThread>({
    program: 'chunkThread',
    given: { work, place },
    signal,
    stop: [{ kind: 'stop' }, { kind: 'task', task: null }],
    hear(said, tell, fail) {
      if (said.kind === 'drew') supply.drew(said)
      else if (said.kind === 'made') return supply.made(said)
      else if (said.kind === 'wants') {
        // Not waited for: a thread that ends meanwhile needs none.
        const give = async () => tell({ kind: 'task', task: signal.aborted ? null : await supply.next(lane) })
        give().catch(fail)
      }
    },
  })
}
