import {
  clipEnd,
  clipName,
  formatSeconds,
  formatTimecode,
  keyTimes,
  reading,
  sourceTimeAt,
  TICKS_PER_SECOND,
  type Clip,
  type MediaClip,
  type Rate,
} from '@dusk/timeline'
import { firstVisible, headerOf, type Row } from './layout'
import { paintWave } from './paintWave'
import type { Palette } from './palette'
import type { TimelineMedia } from './strips'
import type { TimelineView } from './view'

const RADIUS = 4
/** Pixels up to which a clip is drawn with plain corners. */
const SHORT = 40

export function paintTimeline(
  c: CanvasRenderingContext2D,
  view: TimelineView,
  media: TimelineMedia,
  colour: Palette,
): void {
  const { width, height, scrollY, rows } = view
  c.fillStyle = colour('ground')
  c.fillRect(0, 0, width, height)
  for (const row of rows) {
    const y = row.top - scrollY
    if (y + row.height < 0 || y > height) continue
    c.fillStyle = colour('panel')
    c.globalAlpha = row.track.locked ? 0.35 : 0.75
    c.fillRect(0, y, width, row.height)
    c.globalAlpha = 1
    const left = view.scroll
    const right = left + (width / view.pixelsPerSecond) * TICKS_PER_SECOND
    const clips = view.lanes.get(row.track.id) ?? []
    for (let i = firstVisible(clips, left); i < clips.length; i++) {
      const clip = view.changed.get(clips[i]!.id) ?? clips[i]!
      if (clip.start > right) break
      paintClip(c, clip, row, y, view, media, colour)
    }
  }
  if (view.range) {
    // What lies outside the marked range steps back a little.
    const [from, to] = [toX(view, view.range.from), toX(view, view.range.to)]
    c.fillStyle = colour('ground')
    c.globalAlpha = 0.35
    if (from > 0) c.fillRect(0, 0, from, height)
    if (to < width) c.fillRect(to, 0, width - to, height)
    c.globalAlpha = 1
  }
  for (const ghost of view.ghosts) {
    const row = rows.find((entry) => entry.track.id === ghost.trackId)
    if (!row) continue
    const x = toX(view, ghost.start)
    c.fillStyle = colour(view.ghostBad ? 'rose' : 'dusk')
    c.strokeStyle = c.fillStyle
    c.globalAlpha = 0.25
    box(c, x, row.top - scrollY, (ghost.length / TICKS_PER_SECOND) * view.pixelsPerSecond, row.height)
    c.fill()
    c.globalAlpha = 1
    c.setLineDash([5, 3])
    c.lineWidth = 1.5
    c.stroke()
    c.setLineDash([])
  }
  if (view.band) {
    const { x0, y0, x1, y1 } = view.band
    c.fillStyle = c.strokeStyle = colour('dusk')
    c.globalAlpha = 0.15
    c.fillRect(Math.min(x0, x1), Math.min(y0, y1), Math.abs(x1 - x0), Math.abs(y1 - y0))
    c.globalAlpha = 1
    c.lineWidth = 1
    c.strokeRect(Math.min(x0, x1) + 0.5, Math.min(y0, y1) + 0.5, Math.abs(x1 - x0), Math.abs(y1 - y0))
  }
}

function toX(view: TimelineView, tick: number): number {
  return ((tick - view.scroll) / TICKS_PER_SECOND) * view.pixelsPerSecond
}

function box(c: CanvasRenderingContext2D, x: number, y: number, w: number, h: number): void {
  // Of a clip far away hardly a pixel is left.
  const width = Math.max(w, 1)
  c.beginPath()
  c.roundRect(x, y, width, h, Math.min(RADIUS, width / 2))
}

function paintClip(
  c: CanvasRenderingContext2D,
  clip: Clip,
  row: Row,
  y: number,
  view: TimelineView,
  media: TimelineMedia,
  colour: Palette,
): void {
  const x = toX(view, clip.start)
  const w = Math.max((clip.length / TICKS_PER_SECOND) * view.pixelsPerSecond, 1)
  const { track, height: h } = row
  const off = track.hidden || track.muted
  c.save()
  c.globalAlpha = view.lifted.has(clip.id) ? 0.35 : off ? 0.5 : 1
  c.beginPath()
  // Rounded clipping is dear; of short clips, of which there may be a thousand on screen, nobody sees the corners.
  if (w < SHORT) c.rect(Math.round(x), y, Math.max(Math.round(x + w) - Math.round(x) - 1, 1), h)
  else c.roundRect(x + 0.5, y, w - 1, h, RADIUS)
  const made = clip.kind !== 'media' && clip.kind !== 'reel'
  c.fillStyle = colour(`clip-${made ? 'titles' : track.purpose}`)
  c.fill()

  if (w > 3) {
    c.clip()
    // Very short rows have no header: the film or the wave takes it all.
    const header = headerOf(h)
    if (clip.kind === 'reel') paintWeave(c, x, y + header, w, h - header, view.width, colour)
    else if (track.kind === 'picture' && clip.kind === 'media')
      paintStrip(c, clip, x, y + header, w, h - header, view, media)
    else if (track.kind === 'sound' && clip.kind === 'media') {
      c.save()
      paintWave(c, clip, x, y + header, w, h - header, view, media, colour)
      c.restore()
    }
    for (const marker of view.markers.get(clip.id) ?? []) {
      const at = toX(view, clip.start + marker.at - clip.head)
      if (at < x || at >= x + w) continue
      c.fillStyle = colour(marker.colour)
      c.fillRect(at, y, 1, h)
      c.fillRect(at - 3, y, 7, 4)
    }
    paintKeys(c, clip, x, y, w, h, view, colour)
    if (clip.label) {
      c.fillStyle = colour(clip.label)
      c.fillRect(x, y, 4, h)
    }
    if (w > 26) {
      const slip = view.slips.get(clip.id)
      const name = [
        slip && `${slip > 0 ? '+' : '−'}${formatSeconds(Math.abs(slip))}`,
        clip.map.kind === 'freeze' && 'frozen',
        clip.map.kind === 'ramp' && 'speed curve',
        clip.map.kind === 'constant' && clip.map.speed !== 1 && `${Math.round(clip.map.speed * 100)} %`,
        clipName(reading(view.project), clip).replace(/\.[^.]+$/, ''),
        clip.kind === 'media' && track.kind === 'picture' && view.unready.get(clip.assetId),
      ]
        .filter(Boolean)
        .join(' · ')
      c.font = '500 11px "Hanken Grotesk Variable", sans-serif'
      c.textBaseline = 'middle'
      const at = Math.max(x, 0) + (clip.label ? 9 : 6)
      if (header === 0) {
        c.fillStyle = colour('ground')
        c.globalAlpha *= 0.6
        c.fillRect(at - 3, y + 2, Math.min(c.measureText(name).width + 6, w), 14)
        c.globalAlpha = 1
      }
      c.fillStyle = colour(slip ? 'rose' : 'ivory')
      c.fillText(name, at, y + 8.5, Math.max(x + w - at - 4, 1) < 24 ? 24 : undefined)
    }
  }
  c.restore()
  if (view.selection.has(clip.id)) {
    box(c, x + 1, y + 0.5, w - 2, h - 1)
    c.strokeStyle = colour('dusk')
    c.lineWidth = 2
    c.stroke()
  }
}

/** Keyframes along the foot of a clip. */
function paintKeys(
  c: CanvasRenderingContext2D,
  clip: Clip,
  x: number,
  y: number,
  w: number,
  h: number,
  view: TimelineView,
  colour: Palette,
): void {
  // The level line shows its points itself.
  const { level: _, ...params } = clip.params
  const times = keyTimes({ ...params, ...(clip.kind === 'title' ? clip.title.style : {}) })
  if (times.length === 0) return
  c.fillStyle = colour('lamp')
  for (const time of times) {
    const at = toX(view, clip.start + time - clip.head)
    if (at < x || at > x + w) continue
    c.beginPath()
    c.moveTo(at, y + h - 9)
    c.lineTo(at + 4, y + h - 5)
    c.lineTo(at, y + h - 1)
    c.lineTo(at - 4, y + h - 5)
    c.fill()
  }
}

/** A nested reel: slanted lines, since its picture changes with what is in it. */
function paintWeave(
  c: CanvasRenderingContext2D,
  x: number,
  y: number,
  w: number,
  h: number,
  width: number,
  colour: Palette,
): void {
  c.strokeStyle = colour('ivory')
  c.globalAlpha *= 0.18
  c.lineWidth = 1
  c.beginPath()
  const first = Math.max(x, -h) - ((Math.max(x, -h) - x) % 10)
  for (let at = first; at < Math.min(x + w, width) + h; at += 10) {
    c.moveTo(at, y + h)
    c.lineTo(at + h, y)
  }
  c.stroke()
  c.globalAlpha = 1
}

function paintStrip(
  c: CanvasRenderingContext2D,
  clip: MediaClip,
  x: number,
  y: number,
  w: number,
  h: number,
  view: TimelineView,
  media: TimelineMedia,
): void {
  const strip = view.sources[clip.assetId]?.strip
  const sheet = strip ? media.sheet(strip.url) : null
  if (!strip || !sheet || h < 8) return
  const tile = Math.max(8, (h * strip.tileWidth) / strip.tileHeight)
  const first = Math.max(0, Math.floor(-x / tile))
  const last = Math.min(Math.ceil(w / tile), Math.ceil((view.width - x) / tile))
  for (let i = first; i < last; i++) {
    const at = clip.start + Math.round((((i + 0.5) * tile) / view.pixelsPerSecond) * TICKS_PER_SECOND)
    const index = nearest(strip.times, sourceTimeAt(clip, Math.min(at, clipEnd(clip) - 1)))
    const sx = (index % strip.columns) * strip.tileWidth
    const sy = Math.floor(index / strip.columns) * strip.tileHeight
    c.drawImage(sheet, sx, sy, strip.tileWidth, strip.tileHeight, x + i * tile, y, tile, h)
  }
}

/** Index of the strip's picture nearest to a source time. */
export function nearest(times: readonly number[], time: number): number {
  let low = 0
  let high = times.length - 1
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (times[middle]! <= time) low = middle
    else high = middle - 1
  }
  return low + 1 < times.length && times[low + 1]! - time < time - times[low]! ? low + 1 : low
}

/** Steps between labels on the ruler, in seconds. */
const STEPS = [1 / 30, 1 / 10, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800, 3600]

/** Times along the top. */
export function paintRuler(
  c: CanvasRenderingContext2D,
  width: number,
  height: number,
  scroll: number,
  pixelsPerSecond: number,
  rate: Rate,
  colour: Palette,
): void {
  c.fillStyle = colour('ground')
  c.fillRect(0, 0, width, height)
  c.fillStyle = colour('line')
  c.fillRect(0, height - 1, width, 1)
  const step = STEPS.find((seconds) => seconds * pixelsPerSecond >= 76) ?? 7200
  const minor = step / (step >= 1 && pixelsPerSecond * step > 140 ? 10 : 5)
  const from = scroll / TICKS_PER_SECOND
  c.font = '10px "Martian Mono Variable", monospace'
  c.textBaseline = 'middle'
  for (let n = Math.floor(from / minor); ; n++) {
    const seconds = n * minor
    const x = (seconds - from) * pixelsPerSecond
    if (x > width) break
    const major = Math.abs(seconds / step - Math.round(seconds / step)) < 1e-6
    c.fillStyle = colour(major ? 'muted' : 'line')
    c.fillRect(Math.round(x), height - (major ? 8 : 5), 1, major ? 8 : 5)
    if (major) {
      const text = formatTimecode(Math.round(seconds * TICKS_PER_SECOND), rate)
      c.fillText(step >= 1 ? text.slice(0, text.length - 3) : text, x + 5, height / 2 - 1)
    }
  }
}
