import { decibelsToGain, fadeGain, waveformLevel, WAVEFORM_PARTS, type Waveform } from '@dusk/sound'
import {
  clipEnd,
  sourceTimeAt,
  TICKS_PER_SAMPLE,
  TICKS_PER_SECOND,
  valueAt,
  type Animated,
  type MediaClip,
  type Project,
} from '@dusk/timeline'
import { fadeShape, transitionAtEdge } from './edgeTransitions'
import type { Palette } from './palette'
import type { TimelineMedia } from './strips'
import type { TimelineView } from './view'

/** How loud a clip is at a reel position: its gain, its level line, its fades. What is loud looks loud. */
function loudness(clip: MediaClip, transitions: Project['transitions']): (tick: number) => number {
  const gain = decibelsToGain(clip.gain)
  const level = clip.params.level as Animated<number> | undefined
  const [start, end] = (['start', 'end'] as const).map((edge) => transitionAtEdge(transitions, clip.id, edge))
  return (tick) => {
    let value = gain
    if (level !== undefined) value *= decibelsToGain(valueAt(level, clip.head + tick - clip.start))
    if (start) {
      const t = (tick - clip.start + start.before) / (start.before + start.after)
      value *= fadeGain(fadeShape(start.kind), t)
    }
    if (end) {
      const t = (clipEnd(clip) + end.after - tick) / (end.before + end.after)
      value *= fadeGain(fadeShape(end.kind), t)
    }
    return value
  }
}

/** Lowest, highest and mean of some channels between two samples of a source, of 127. */
function extremes(level: Waveform['levels'][number], channels: readonly number[], from: number, to: number) {
  const first = Math.max(0, Math.floor(Math.min(from, to) / level.step))
  const last = Math.max(first + 1, Math.ceil(Math.max(from, to) / level.step))
  let [low, high, mean] = [0, 0, 0]
  for (const channel of channels) {
    const list = level.channels[channel]!
    for (let i = first; i < last && i * WAVEFORM_PARTS < list.length; i++) {
      low = Math.min(low, list[i * WAVEFORM_PARTS]!)
      high = Math.max(high, list[i * WAVEFORM_PARTS + 1]!)
      mean = Math.max(mean, list[i * WAVEFORM_PARTS + 2]!)
    }
  }
  return { low, high, mean }
}

/** A clip's wave: peaks, and the mean as a brighter band within them; each channel by itself where there is room. */
export function paintWave(
  c: CanvasRenderingContext2D,
  clip: MediaClip,
  x: number,
  y: number,
  w: number,
  h: number,
  view: TimelineView,
  media: TimelineMedia,
  colour: Palette,
): void {
  const sound = view.sources[clip.assetId]?.sounds[clip.stream ?? -1]
  const wave = sound?.ready ? media.wave(sound.waveformUrl) : null
  if (!wave) return
  const perPixel = TICKS_PER_SECOND / view.pixelsPerSecond
  const sample = (px: number) => sourceTimeAt(clip, Math.round(clip.start + (px - x) * perPixel)) / TICKS_PER_SAMPLE
  const x0 = Math.max(0, Math.floor(x))
  const x1 = Math.min(view.width, Math.ceil(x + w))
  if (x1 <= x0) return
  const level = waveformLevel(wave, Math.abs(sample(x1) - sample(x0)) / (x1 - x0))
  const loud = loudness(clip, view.project.transitions)
  // Tall rows show every channel, low ones all in one.
  const lanes = h >= 34 && wave.channels > 1 ? Math.min(wave.channels, 2) : 1
  const all = Array.from({ length: wave.channels }, (_, i) => i)
  const alpha = c.globalAlpha
  c.fillStyle = colour('ivory')
  for (let lane = 0; lane < lanes; lane++) {
    const middle = y + (h / lanes) * (lane + 0.5)
    const reach = h / lanes / 2 - 1
    const peaks = new Path2D()
    const means = new Path2D()
    for (let px = x0; px < x1; px++) {
      const { low, high, mean } = extremes(level, lanes > 1 ? [lane] : all, sample(px), sample(px + 1))
      const gain = loud(clip.start + (px + 0.5 - x) * perPixel) / 127
      const top = Math.min(high * gain, 1) * reach
      const bottom = Math.max(low * gain, -1) * reach
      peaks.rect(px, middle - top, 1, Math.max(top - bottom, 0.8))
      const band = Math.min(mean * gain, 1) * reach
      if (band > 0.4) means.rect(px, middle - band, 1, band * 2)
    }
    c.globalAlpha = alpha * 0.4
    c.fill(peaks)
    c.globalAlpha = alpha * 0.55
    c.fill(means)
  }
  c.globalAlpha = alpha
}
