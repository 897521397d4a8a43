import type { Asset } from '@dusk/timeline'
import { waveformLevel } from '@dusk/sound'
import type { SourceState } from '~~/server/utils/sources'
import { nearest } from '~/features/timeline/paint'
import type { Palette } from '~/features/timeline/palette'
import type { TimelineMedia } from '~/features/timeline/strips'

/** Paints a whole source over a strip: pictures along it, the wave of its first sound beneath or alone. */
export function paintSource(
  c: CanvasRenderingContext2D,
  width: number,
  height: number,
  asset: Asset,
  state: SourceState | undefined,
  length: number,
  media: TimelineMedia,
  colour: Palette,
): void {
  c.fillStyle = colour(asset.picture ? 'clip-picture' : 'clip-music')
  c.fillRect(0, 0, width, height)
  const film = asset.picture ? (asset.sounds.length > 0 ? Math.round(height * 0.66) : height) : 0
  const strip = state?.strip
  const sheet = strip && film > 0 ? media.sheet(strip.url) : null
  if (strip && sheet) {
    const tile = (film * strip.tileWidth) / strip.tileHeight
    for (let x = 0; x < width; x += tile) {
      const index = nearest(strip.times, ((x + tile / 2) / width) * length)
      const [sx, sy] = [(index % strip.columns) * strip.tileWidth, Math.floor(index / strip.columns) * strip.tileHeight]
      c.drawImage(sheet, sx, sy, strip.tileWidth, strip.tileHeight, x, 0, tile, film)
    }
  }
  const sound = state?.sounds[0]
  const wave = sound?.ready ? media.wave(sound.waveformUrl) : null
  if (!wave) return
  const perPixel = length / 14_700 / width
  const level = waveformLevel(wave, perPixel)
  const [middle, reach] = [film + (height - film) / 2, (height - film) / 2 - 1]
  c.fillStyle = colour('ground')
  c.globalAlpha = 0.35
  c.fillRect(0, film, width, height - film)
  c.globalAlpha = 0.7
  c.fillStyle = colour('ivory')
  for (let x = 0; x < width; x++) {
    const first = Math.floor((x * perPixel) / level.step)
    const last = Math.max(first + 1, Math.ceil(((x + 1) * perPixel) / level.step))
    let [low, high] = [0, 0]
    for (const pairs of level.channels)
      for (let i = first; i < last && i * 2 < pairs.length; i++) {
        low = Math.min(low, pairs[i * 2]!)
        high = Math.max(high, pairs[i * 2 + 1]!)
      }
    const top = (high / 127) * reach
    c.fillRect(x, middle - top, 1, Math.max(top - (low / 127) * reach, 0.8))
  }
  c.globalAlpha = 1
}
