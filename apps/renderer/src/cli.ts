import { readFileSync } from 'node:fs'
import { mkdtemp, mkdir, rm, stat } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, extname, join, resolve } from 'node:path'
import {
  beyondCodec,
  canCopy,
  canFit,
  DELIVERIES,
  deliveryOf,
  deliverySchema,
  encoderSpeedSchema,
  fileSize,
  HARDWARE_ENCODERS,
  hardwareSchema,
  heldRate,
  purposeFileSchema,
  PURPOSES,
  renderSettings,
  type DeliveryId,
  type HardwareId,
  type Purpose,
  type PurposeSettings,
} from '@dusk/interchange'
import { examine, FolderStorage, LOOSE_SEEKING, makeSound, proveHardware, readArchive } from '@dusk/media'
import {
  connect,
  ProjectLog,
  RangeRefused,
  renderRange,
  type RenderProgress,
  type RenderReport,
  type RenderSettings,
} from '@dusk/store'
import { parseTimecode, reelsOf, rateFromNumber, type Project, type Rate, type Reel } from '@dusk/timeline'
import { makeMadeFrames } from './jobs/madeFrames'
import { sourceBook } from './jobs/sourceBook'
import { renderReel } from './render/renderReel'
import { soundPath } from './render/soundFiles'
import type { SourceBook } from './render/sources'

/** What is asked for on the command line; what is left out is as the reel is. */
export interface CliOptions {
  /** A reel by its name; the first one where nothing is said. */
  reel?: string
  size?: string
  rate?: string
  range?: string
  quality?: string
  loudness?: string
  /** Megabytes that the file fits into. */
  fit?: string
  /** How long the encoder looks for ways to save bits. */
  speed?: string
  /** An encoder in a graphics chip, by ffmpeg's name. */
  hardware?: string
  /** Shots that nothing is done to are copied as they are coded. */
  copy?: boolean
  /** What kind of file; by the ending of its name where nothing is said. */
  format?: string
  /** A purpose that ships, by its id, or one that was saved as a `.json` file. */
  purpose?: string
  /** Words of a film. */
  title?: string
  description?: string
}

/** Wrong words on the command line. */
export class UsageError extends Error {}

/** The reel that is asked for. @throws {UsageError} naming those that there are */
export function reelFor(project: Project, { reel }: CliOptions): Reel {
  const reels = reelsOf(project)
  if (reel === undefined) return reels[0]!
  const named = reels.find(({ name }) => name === reel)
  if (!named) throw new UsageError(`--reel is one of ${reels.map(({ name }) => name).join(', ')}, not ${reel}.`)
  return named
}

/** Settings for a reel from words such as `1280x720`, `2s-5s`, `29.97`. @throws {UsageError} naming what is wrong */
export function settingsFor(project: Project, reelId: string, options: CliOptions, out = ''): RenderSettings {
  const { format } = project.reels[reelId]!
  const purpose = purposeFor(options, out)
  let { width, height } = fileSize(purpose, format)
  if (options.size) {
    const match = /^(\d+)x(\d+)$/.exec(options.size)
    if (!match) throw new UsageError(`--size is written as 1280x720, not ${options.size}.`)
    ;[width, height] = [Number(match[1]), Number(match[2])]
    if ([width, height].some((value) => value < 16 || value > 8192 || value % 2))
      throw new UsageError('--size takes even numbers from 16 to 8192.')
  }
  let rate: Rate = purpose.rate ?? format.rate
  if (options.rate) {
    const found = rateFromNumber(Number(options.rate))
    if (!found)
      throw new UsageError(`--rate takes 23.976, 24, 25, 29.97, 30, 48, 50, 59.94 or 60, not ${options.rate}.`)
    rate = found
  }
  const delivery = deliveryOf(purpose.format)
  const beyond = beyondCodec(delivery, { width, height, rate })
  // A rate is held by itself where it is the reel's; one that was asked for is not put aside silently.
  if (beyond && (beyond.field === 'size' || options.rate)) throw new UsageError(beyond.words)
  rate = heldRate(delivery, rate)
  let range: RenderSettings['range'] = null
  if (options.range) {
    const [from, to] = options.range.split('-').map((part) => parseTimecode(part, format.rate))
    if (from === null || from === undefined || to === null || to === undefined || to <= from)
      throw new UsageError(
        `--range is written as 2s-5s or 0:00:02:00-0:00:05:00, the end after the beginning, not ${options.range}.`,
      )
    try {
      range = renderRange(project, reelId, { from, to })
    } catch (error) {
      throw error instanceof RangeRefused ? new UsageError(error.message) : error
    }
  }
  const quality = options.quality ?? purpose.quality
  if (quality !== 'draft' && quality !== 'good' && quality !== 'best')
    throw new UsageError(`--quality is draft, good or best, not ${quality}.`)
  const loudness = options.loudness === undefined ? purpose.loudness : Number(options.loudness)
  if (loudness !== null && !(loudness >= -40 && loudness <= -5))
    throw new UsageError(`--loudness takes LUFS from -40 to -5, not ${options.loudness}.`)
  const megabytes = options.fit === undefined ? purpose.megabytes : Number(options.fit)
  if (megabytes !== null && !(megabytes >= 0.1 && megabytes <= 100_000))
    throw new UsageError(`--fit takes megabytes from 0.1 to 100000, not ${options.fit}.`)
  if (options.fit !== undefined && !canFit(deliveryOf(purpose.format)))
    throw new UsageError(`--fit is for films in H.264, H.265 and VP9, not for ${purpose.format}.`)
  const speed = encoderSpeedSchema.safeParse(options.speed ?? purpose.speed)
  if (!speed.success) throw new UsageError(`--speed is quick, even or thorough, not ${options.speed}.`)
  const streamCopy = options.copy ?? purpose.streamCopy
  if (options.copy && !canCopy(deliveryOf(purpose.format)))
    throw new UsageError(`--copy is for films in H.264, not for ${purpose.format}.`)
  if (options.copy && (megabytes !== null || purpose.megabits !== null))
    throw new UsageError('--copy goes by quality: leave out --fit, or the purpose that asks for a number of bits.')
  const hardware = hardwareFor(options, purpose)
  const chosen: PurposeSettings = { ...purpose, streamCopy, quality, loudness, megabytes, speed: speed.data }
  const words = { title: options.title?.slice(0, 200), description: options.description?.slice(0, 5000) }
  return { ...renderSettings(chosen, format, range, words), width, height, rate, ...(hardware ? { hardware } : {}) }
}

/** The encoder in hardware that is asked for. @throws {UsageError} */
function hardwareFor(options: CliOptions, { format }: PurposeSettings): HardwareId | null {
  if (options.hardware === undefined) return null
  const known = hardwareSchema.safeParse(options.hardware)
  if (!known.success)
    throw new UsageError(`--hardware is one of ${hardwareSchema.options.join(', ')}, not ${options.hardware}.`)
  if (HARDWARE_ENCODERS[known.data].picture !== deliveryOf(format).picture)
    throw new UsageError(`--hardware ${known.data} makes other pictures than ${format} holds.`)
  if (options.fit !== undefined || options.copy || options.speed !== undefined)
    throw new UsageError('--hardware goes by quality: leave out --fit, --copy and --speed.')
  return known.data
}

/** A purpose of one's own, as the dialog saves it. @throws {UsageError} naming the field that is wrong */
function purposeFile(path: string): Pick<Purpose, 'settings'> {
  let text: unknown
  try {
    text = JSON.parse(readFileSync(path, 'utf8'))
  } catch (error) {
    throw new UsageError(`${path} can’t be read as a purpose: ${(error as Error).message}`)
  }
  const read = purposeFileSchema.safeParse(text)
  if (read.success) return read.data
  const [issue] = read.error.issues
  throw new UsageError(`${path} is no purpose: ${issue!.path.join('.') || 'the file'}: ${issue!.message}.`)
}

/** What is asked for by a purpose's name, a kind of file, or the ending of the file's name. @throws {UsageError} */
function purposeFor({ purpose, format }: CliOptions, out: string): PurposeSettings {
  const named = purpose?.endsWith('.json')
    ? purposeFile(purpose)
    : PURPOSES.find(({ id }) => id === (purpose ?? 'asReel'))
  if (!named)
    throw new UsageError(
      `--purpose is one of ${PURPOSES.map(({ id }) => id).join(', ')} or a .json file, not ${purpose}.`,
    )
  if (format !== undefined) {
    const known = deliverySchema.safeParse(format)
    if (!known.success) throw new UsageError(`--format is one of ${Object.keys(DELIVERIES).join(', ')}, not ${format}.`)
    return { ...named.settings, format: known.data }
  }
  if (purpose !== undefined) return named.settings
  const ending = extname(out).slice(1).toLowerCase()
  const found = (Object.keys(DELIVERIES) as DeliveryId[]).find((id) => DELIVERIES[id].ending === ending)
  if (ending && !found)
    throw new UsageError(
      `What kind of file .${ending} is to be is not known. ` +
        `Say it with --format: ${Object.keys(DELIVERIES).join(', ')}.`,
    )
  return { ...named.settings, format: found ?? named.settings.format }
}

/** @throws {UsageError} where an encoder in hardware is asked for that does not work on this machine */
async function checkHardware({ hardware }: RenderSettings, signal?: AbortSignal): Promise<void> {
  if (!hardware) return
  const proven = await proveHardware(signal)
  if (proven.includes(hardware)) return
  const found = proven.length > 0 ? `These do: ${proven.join(', ')}.` : 'None does; leave --hardware out.'
  throw new UsageError(`${hardware} does not work on this machine. ${found}`)
}

type Watch = (progress: RenderProgress) => void

/** A file that was made, and what kind it is. */
export type Rendered = RenderReport & { format: DeliveryId }

/** What a file holds, in words for a terminal: frames of a film, none of sound alone. */
export function reportWords({ format, frames, seconds, width, height, bytes, took }: Rendered): string {
  const { kind } = deliveryOf(format)
  const size = `${width} × ${height}`
  const moving = `${frames} ${frames === 1 ? 'frame' : 'frames'}, ${seconds.toFixed(2)} s, ${size}`
  const held = kind === 'sound' ? `${seconds.toFixed(2)} s of sound` : kind === 'still' ? size : moving
  return `${held}, ${bytes} bytes, took ${took.toFixed(1)} s`
}

/** Progress of frames that are made before a render can begin, in hundredths. */
const betweenProgress = (watch: Watch | undefined) => (part: number) =>
  watch?.({ stage: 'between', framesDone: Math.round(part * 100), frames: 100, secondsLeft: null })

/** Renders a reel of a project in the studio's database. */
export async function renderProject(
  databaseUrl: string,
  mediaFolder: string,
  id: string,
  out: string,
  options: CliOptions,
  progress?: Watch,
  signal?: AbortSignal,
): Promise<Rendered> {
  const connection = connect(databaseUrl, 2)
  const folder = await mkdtemp(join(tmpdir(), 'dusk-render-'))
  const storage = new FolderStorage(mediaFolder)
  try {
    const { project } = await new ProjectLog(connection).read(id)
    const { id: reelId } = reelFor(project, options)
    const book = await sourceBook(connection, project)
    const settings = settingsFor(project, reelId, options, out)
    await checkHardware(settings, signal)
    await makeMadeFrames(project, book, storage, folder, { signal, progress: betweenProgress(progress) })
    const report = await renderReel({ project, reelId, settings, book, storage, out: resolve(out), progress, signal })
    return { ...report, format: settings.format ?? 'mp4-h264' }
  } finally {
    await rm(folder, { recursive: true, force: true })
    await connection.close()
  }
}

/** Renders a reel of a `.duskreel` archive; needs neither database nor studio. */
export async function renderArchive(
  archive: string,
  out: string,
  options: CliOptions,
  progress?: Watch,
  signal?: AbortSignal,
): Promise<Rendered> {
  // Beside the result: the finished file is then only renamed.
  await mkdir(dirname(resolve(out)), { recursive: true })
  const folder = await mkdtemp(join(tmpdir(), 'dusk-archive-'))
  try {
    const storage = new FolderStorage(folder)
    const { project, media } = await readArchive(archive, storage)
    const { id: reelId } = reelFor(project, options)
    const settings = settingsFor(project, reelId, options, out)
    await checkHardware(settings, signal)
    const book: SourceBook = new Map()
    const used = new Set(Object.values(project.clips).map((clip) => (clip.kind === 'media' ? clip.assetId : null)))
    for (const [assetId, { hash }] of Object.entries(media)) {
      if (!used.has(assetId)) continue
      const original = storage.original(hash)
      const metadata = await examine(original, (await stat(original)).size, signal)
      // Nothing proved here that seeking is exact: frames are found by counting where there is doubt.
      metadata.seekable &&= !LOOSE_SEEKING.test(metadata.container)
      for (let i = 0; i < metadata.sounds.length; i++) {
        const path = soundPath(storage, hash, i)
        await mkdir(dirname(path), { recursive: true })
        await makeSound(original, metadata, i, path, `${path}.waveform`, { signal })
      }
      book.set(assetId, { hash, metadata })
    }
    await makeMadeFrames(project, book, storage, folder, { signal, progress: betweenProgress(progress) })
    const report = await renderReel({ project, reelId, settings, book, storage, out: resolve(out), progress, signal })
    return { ...report, format: settings.format ?? 'mp4-h264' }
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
