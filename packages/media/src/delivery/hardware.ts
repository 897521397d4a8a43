import { join } from 'node:path'
import { HARDWARE_ENCODERS, type HardwareId } from '@dusk/interchange'
import { inPassingFolder } from '../scratch'
import { runTool } from '../tool'
import { BT709_TAGS, groupOf, type PictureEncoding, type Quality } from './pictureArgs'

/** How an encoder in hardware is asked for. */
interface Asking {
  /** Before all inputs: the device. */
  device: readonly string[]
  /** What brings a picture to it, at the end of the filters. */
  upload: readonly string[]
  /** Arguments for a quality on its own scale. */
  quality: (scale: number) => string[]
}

/** Where the kernel shows the first graphics device that can be drawn with (drm(7)). */
const DEVICE = '/dev/dri/renderD128'
const vaapi: Asking = {
  device: ['-vaapi_device', DEVICE],
  upload: ['format=nv12', 'hwupload'],
  quality: (scale) => ['-rc_mode', 'CQP', '-qp', String(scale)],
}
const nvenc: Asking = {
  device: [],
  upload: ['format=yuv420p'],
  quality: (scale) => ['-rc', 'vbr', '-cq', String(scale), '-b:v', '0'],
}
const qsv: Asking = { device: [], upload: ['format=nv12'], quality: (scale) => ['-global_quality', String(scale)] }

const askingFor = (id: HardwareId) => (id.endsWith('vaapi') ? vaapi : id.endsWith('nvenc') ? nvenc : qsv)

/** Quantisers that look about like the qualities of the encoders that run on processors. */
const SCALE: Record<'h264' | 'h265', Record<Quality, number>> = {
  h264: { draft: 29, good: 23, best: 18 },
  h265: { draft: 31, good: 25, best: 20 },
}

/** ffmpeg's arguments for an encoder in hardware: before its inputs, filters, and of the encoder. */
export function hardwareArgs(
  id: HardwareId,
  { quality, bitrate, rate }: Pick<PictureEncoding, 'quality' | 'bitrate' | 'rate'>,
): { before: readonly string[]; filters: readonly string[]; encoder: string[] } {
  const asking = askingFor(id)
  const { picture } = HARDWARE_ENCODERS[id]
  const aim = bitrate ? ['-b:v', String(bitrate), '-maxrate', String(Math.round(bitrate * 1.5))] : null
  return {
    before: asking.device,
    filters: asking.upload,
    encoder: [
      // Without pictures that are shown before others they need, each group is closed.
      ...['-c:v', id, '-g', String(groupOf(rate)), '-bf', '0', ...(aim ?? asking.quality(SCALE[picture][quality]))],
      ...(picture === 'h265' ? ['-tag:v', 'hvc1'] : []),
      ...BT709_TAGS,
    ],
  }
}

/** Pictures that an encoder has to prove itself with, and how far on average a value may be off, of 255. */
const TRIAL = { width: 640, height: 360, frames: 24, off: 6 }
const TRIAL_MS = 15_000

/**
 * Tries each encoder in hardware on moving bars and decodes what it made: only those whose pictures came back, all of
 * them and alike, are found. That ffmpeg names an encoder says nothing of whether there is a chip for it.
 */
export async function proveHardware(signal?: AbortSignal): Promise<HardwareId[]> {
  const proven: HardwareId[] = []
  await inPassingFolder(async (folder) => {
    for (const id of Object.keys(HARDWARE_ENCODERS) as HardwareId[])
      if (await comesBack(id, join(folder, `${id}.mkv`), signal).catch(() => false)) proven.push(id)
  })
  signal?.throwIfAborted()
  return proven
}

async function comesBack(id: HardwareId, out: string, signal?: AbortSignal): Promise<boolean> {
  const { width, height, frames, off } = TRIAL
  const { before, filters, encoder } = hardwareArgs(id, { quality: 'best', rate: { num: 30, den: 1 } })
  const bars = ['-f', 'lavfi', '-i', `testsrc2=s=${width}x${height}:r=30,format=yuv420p`, '-frames:v', String(frames)]
  const options = { signal, timeout: TRIAL_MS }
  await runTool('ffmpeg', ['-v', 'error', '-y', ...before, ...bars, '-vf', filters.join(','), ...encoder, out], options)
  const raw = ['-pix_fmt', 'yuv420p', '-f', 'rawvideo', 'pipe:1']
  const [wanted, found] = await Promise.all([
    runTool('ffmpeg', ['-v', 'error', ...bars, ...raw], options),
    runTool('ffmpeg', ['-v', 'error', '-i', out, ...raw], options),
  ])
  if (wanted.length !== found.length) return false
  let sum = 0
  for (let i = 0; i < wanted.length; i++) sum += Math.abs(wanted[i]! - found[i]!)
  return sum / wanted.length < off
}
