import { createCanvas } from '@napi-rs/canvas'
import { boat, DUSK, glow, gradient, hills, NIGHT, sky, village, vignette, water, type Context } from '../src/draw'
import { random } from '../src/random'

type Draw = (c: Context, w: number, h: number) => void

/** A picture of the stock. Backgrounds are opaque and wide; cut-outs are square and transparent. */
export interface StockPicture {
  title: string
  group: 'Backgrounds' | 'Cut-outs'
  draw: Draw
}

const wash =
  (...colours: string[]): Draw =>
  (c, w, h) => {
    gradient(c, 0, 0, w * 0.3, h, colours)
    c.fillRect(0, 0, w, h)
  }

/** Runs over a grid of points, each shifted a little. */
function scatter(
  w: number,
  h: number,
  step: number,
  seed: number,
  each: (x: number, y: number, r: () => number) => void,
) {
  const r = random(seed)
  for (let y = -step; y < h + step; y += step)
    for (let x = -step; x < w + step; x += step) each(x + r() * step, y + r() * step, r)
}

/** Grain like that of paper, over what is there. */
function grain(c: Context, w: number, h: number, seed: number, strength: number): void {
  const image = c.getImageData(0, 0, w, h)
  const r = random(seed)
  for (let i = 0; i < image.data.length; i += 4) {
    const by = (r() - 0.5) * strength
    for (let k = 0; k < 3; k++) image.data[i + k] = Math.min(255, Math.max(0, image.data[i + k]! + by))
  }
  c.putImageData(image, 0, 0)
}

function polygon(c: Context, points: readonly (readonly [number, number])[]): void {
  c.beginPath()
  for (const [i, [x, y]] of points.entries())
    if (i === 0) c.moveTo(x, y)
    else c.lineTo(x, y)
  c.closePath()
}

function star(c: Context, x: number, y: number, outer: number, inner: number, tips: number): void {
  const points = Array.from({ length: tips * 2 }, (_, i) => {
    const [angle, reach] = [(i * Math.PI) / tips - Math.PI / 2, i % 2 ? inner : outer]
    return [x + Math.cos(angle) * reach, y + Math.sin(angle) * reach] as const
  })
  polygon(c, points)
}

const harbour =
  (hour: typeof DUSK, seed: number, boats: number): Draw =>
  (c, w, h) => {
    const horizon = h * 0.52
    sky(c, w, horizon, hour, seed, seed)
    glow(c, w * 0.62, horizon, h * 0.5, hour.glow, 0.7)
    hills(c, w, horizon, hour, seed * 60)
    village(c, w * 0.2, horizon, h * 0.07, hour, seed)
    water(c, w, horizon, h, hour, seed, w * 0.62)
    for (let i = 0; i < boats; i++)
      boat(
        c,
        w * (0.08 + (i * 0.83) / boats),
        horizon + h * (0.12 + (0.3 * ((i * 7) % 5)) / 5),
        50 + 14 * (i % 4),
        seed + i,
        i,
        hour,
      )
    vignette(c, w, h, 0.3)
  }

export const PICTURES: Record<string, StockPicture> = {
  'dusk-wash': { title: 'Dusk wash', group: 'Backgrounds', draw: wash('#2b1d4a', '#7a3b69', '#f0a36b') },
  'night-wash': { title: 'Night wash', group: 'Backgrounds', draw: wash('#0d0b1f', '#232050', '#3b3a78') },
  'moss-wash': { title: 'Moss wash', group: 'Backgrounds', draw: wash('#1c2a24', '#3f5c47', '#93c48b') },
  'ember-wash': { title: 'Ember wash', group: 'Backgrounds', draw: wash('#3a1420', '#a6452f', '#ffb46e') },
  'ivory-paper': {
    title: 'Ivory paper',
    group: 'Backgrounds',
    draw(c, w, h) {
      wash('#f7f0e2', '#efe4d0')(c, w, h)
      grain(c, w, h, 5, 18)
    },
  },
  'plum-paper': {
    title: 'Plum paper',
    group: 'Backgrounds',
    draw(c, w, h) {
      wash('#2c2238', '#3b2d4c')(c, w, h)
      grain(c, w, h, 6, 14)
    },
  },
  'night-sky': {
    title: 'Night sky',
    group: 'Backgrounds',
    draw(c, w, h) {
      wash('#080714', '#1a1a3c', '#3a3560')(c, w, h)
      scatter(w, h, 46, 7, (x, y, r) => {
        c.fillStyle = `rgba(255,244,220,${0.15 + r() * 0.7})`
        c.beginPath()
        c.arc(x, y, 0.6 + r() * 1.8, 0, Math.PI * 2)
        c.fill()
      })
    },
  },
  'lantern-blur': {
    title: 'Lanterns out of focus',
    group: 'Backgrounds',
    draw(c, w, h) {
      wash('#150f24', '#33204a')(c, w, h)
      scatter(w, h, 210, 9, (x, y, r) =>
        glow(c, x, y, 50 + r() * 110, r() > 0.5 ? '255,190,110' : '255,150,120', 0.25 + r() * 0.4),
      )
    },
  },
  ripples: {
    title: 'Ripples',
    group: 'Backgrounds',
    draw(c, w, h) {
      wash('#1d2440', '#2d4668')(c, w, h)
      c.strokeStyle = 'rgba(200,220,255,0.16)'
      c.lineWidth = 3
      for (let y = -20; y < h + 40; y += 26) {
        c.beginPath()
        for (let x = 0; x <= w; x += 12) c.lineTo(x, y + 9 * Math.sin(x / 90 + y) + 5 * Math.sin(x / 31))
        c.stroke()
      }
    },
  },
  'sail-stripes': {
    title: 'Sail stripes',
    group: 'Backgrounds',
    draw(c, w, h) {
      wash('#efe4d0', '#efe4d0')(c, w, h)
      c.fillStyle = '#c9604c'
      for (let x = -h; x < w + h; x += 180) {
        polygon(c, [
          [x, h],
          [x + 90, h],
          [x + 90 + h * 0.5, 0],
          [x + h * 0.5, 0],
        ])
        c.fill()
      }
      grain(c, w, h, 11, 12)
    },
  },
  'rope-dots': {
    title: 'Dots',
    group: 'Backgrounds',
    draw(c, w, h) {
      wash('#24303a', '#2c3d49')(c, w, h)
      c.fillStyle = '#f6d06b'
      for (let y = 0; y < h + 60; y += 60)
        for (let x = (y / 60) % 2 ? 30 : 0; x < w + 60; x += 60) {
          c.beginPath()
          c.arc(x, y, 7, 0, Math.PI * 2)
          c.fill()
        }
    },
  },
  'harbour-at-dusk': { title: 'Harbour at dusk', group: 'Backgrounds', draw: harbour(DUSK, 4, 7) },
  'harbour-at-night': { title: 'Harbour at night', group: 'Backgrounds', draw: harbour(NIGHT, 9, 4) },
  'empty-water': { title: 'Empty water', group: 'Backgrounds', draw: harbour(DUSK, 13, 0) },
  'paper-star': {
    title: 'Paper star',
    group: 'Cut-outs',
    draw(c, w, h) {
      glow(c, w / 2, h / 2, w * 0.48, '255,210,110', 0.6)
      star(c, w / 2, h / 2, w * 0.36, w * 0.15, 5)
      c.fillStyle = '#f6d06b'
      c.fill()
      c.lineWidth = 10
      c.strokeStyle = '#fff3cf'
      c.stroke()
    },
  },
  heart: {
    title: 'Heart',
    group: 'Cut-outs',
    draw(c, w, h) {
      c.beginPath()
      c.moveTo(w / 2, h * 0.82)
      c.bezierCurveTo(w * 0.02, h * 0.5, w * 0.16, h * 0.12, w / 2, h * 0.34)
      c.bezierCurveTo(w * 0.84, h * 0.12, w * 0.98, h * 0.5, w / 2, h * 0.82)
      c.fillStyle = '#ec7f95'
      c.fill()
    },
  },
  arrow: {
    title: 'Arrow',
    group: 'Cut-outs',
    draw(c, w, h) {
      c.strokeStyle = '#ff9e5e'
      c.lineWidth = w * 0.07
      c.lineCap = c.lineJoin = 'round'
      c.beginPath()
      c.moveTo(w * 0.12, h * 0.78)
      c.quadraticCurveTo(w * 0.3, h * 0.3, w * 0.84, h * 0.3)
      c.moveTo(w * 0.64, h * 0.12)
      c.lineTo(w * 0.86, h * 0.3)
      c.lineTo(w * 0.66, h * 0.5)
      c.stroke()
    },
  },
  'word-bubble': {
    title: 'Word bubble',
    group: 'Cut-outs',
    draw(c, w, h) {
      c.fillStyle = '#f3ece2'
      c.beginPath()
      c.roundRect(w * 0.08, h * 0.14, w * 0.84, h * 0.54, w * 0.12)
      c.fill()
      polygon(c, [
        [w * 0.28, h * 0.66],
        [w * 0.24, h * 0.88],
        [w * 0.46, h * 0.66],
      ])
      c.fill()
    },
  },
  ribbon: {
    title: 'Ribbon',
    group: 'Cut-outs',
    draw(c, w, h) {
      c.fillStyle = '#a6452f'
      polygon(c, [
        [0, h * 0.44],
        [w * 0.2, h * 0.44],
        [w * 0.2, h * 0.66],
        [0, h * 0.66],
        [w * 0.06, h * 0.55],
      ])
      c.fill()
      polygon(c, [
        [w, h * 0.44],
        [w * 0.8, h * 0.44],
        [w * 0.8, h * 0.66],
        [w, h * 0.66],
        [w * 0.94, h * 0.55],
      ])
      c.fill()
      c.fillStyle = '#ff9e5e'
      c.fillRect(w * 0.1, h * 0.38, w * 0.8, h * 0.2)
    },
  },
  'lantern-boat': {
    title: 'Lantern boat',
    group: 'Cut-outs',
    draw: (c, w, h) => boat(c, w / 2, h * 0.62, w * 0.66, 2, 7, DUSK),
  },
  lamp: {
    title: 'Round lamp',
    group: 'Cut-outs',
    draw(c, w, h) {
      glow(c, w / 2, h / 2, w * 0.48, DUSK.glow, 0.8)
      c.fillStyle = '#ffe2a6'
      c.beginPath()
      c.ellipse(w / 2, h / 2, w * 0.2, h * 0.24, 0, 0, Math.PI * 2)
      c.fill()
      c.fillStyle = '#5a3a2c'
      c.fillRect(w * 0.42, h * 0.24, w * 0.16, h * 0.03)
      c.fillRect(w * 0.42, h * 0.73, w * 0.16, h * 0.03)
    },
  },
  'soft-frame': {
    title: 'Soft dark edges',
    group: 'Cut-outs',
    draw(c, w, h) {
      vignette(c, w, h, 0.85)
    },
  },
  ring: {
    title: 'Ring',
    group: 'Cut-outs',
    draw(c, w, h) {
      c.strokeStyle = '#f6d06b'
      c.lineWidth = w * 0.05
      c.beginPath()
      c.ellipse(w / 2, h / 2, w * 0.4, h * 0.4, 0, 0, Math.PI * 2)
      c.stroke()
    },
  },
}

/** Draws one picture and encodes it: JPEG for backgrounds, PNG for cut-outs. */
export function drawPicture({ group, draw }: StockPicture): { bytes: Buffer; extension: 'jpg' | 'png'; small: Buffer } {
  const [w, h] = group === 'Backgrounds' ? [1920, 1080] : [900, 900]
  const canvas = createCanvas(w, h)
  draw(canvas.getContext('2d'), w, h)
  const thumb = createCanvas(Math.round((w / h) * 160), 160)
  thumb.getContext('2d').drawImage(canvas, 0, 0, thumb.width, thumb.height)
  const opaque = group === 'Backgrounds'
  return {
    bytes: opaque ? canvas.toBuffer('image/jpeg', 92) : canvas.toBuffer('image/png'),
    extension: opaque ? 'jpg' : 'png',
    small: opaque ? thumb.toBuffer('image/jpeg', 85) : thumb.toBuffer('image/png'),
  }
}
