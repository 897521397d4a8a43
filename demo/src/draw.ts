import { createCanvas, type Canvas, type SKRSContext2D } from '@napi-rs/canvas'
import { random, wander } from './random'

export type Context = SKRSContext2D

/** Colours of an hour: sky from top to horizon, hills far and near, water from horizon to front, light of the lamps. */
export interface Hour {
  sky: string[]
  hills: string[]
  water: string[]
  glow: string
  window: string
}

export const DUSK: Hour = {
  sky: ['#2c2350', '#5a3a70', '#a9556f', '#ee9461', '#ffd08a'],
  hills: ['#5b3f6b', '#3a2c52', '#241d38'],
  water: ['#d98a6a', '#7a5078', '#37305c', '#1b1c38'],
  glow: '255,190,96',
  window: '#ffd487',
}

export const NIGHT: Hour = {
  sky: ['#0b0d1c', '#141733', '#242548', '#3b3358'],
  hills: ['#1c1c38', '#15152b', '#0d0d1e'],
  water: ['#2a2a50', '#171a38', '#0c0e20'],
  glow: '255,176,84',
  window: '#e8b15f',
}

export function gradient(c: Context, x0: number, y0: number, x1: number, y1: number, colours: string[]) {
  const g = c.createLinearGradient(x0, y0, x1, y1)
  colours.forEach((colour, i) => g.addColorStop(i / Math.max(colours.length - 1, 1), colour))
  return g
}

/** A soft round light, added to what is there. */
export function glow(c: Context, x: number, y: number, radius: number, colour: string, strength = 1): void {
  const g = c.createRadialGradient(x, y, 0, x, y, radius)
  for (const [at, alpha] of [
    [0, 0.95],
    [0.18, 0.5],
    [0.5, 0.14],
    [1, 0],
  ] as const)
    g.addColorStop(at, `rgba(${colour},${alpha * Math.min(1, strength)})`)
  c.globalCompositeOperation = 'lighter'
  c.fillStyle = g
  c.fillRect(x - radius, y - radius, radius * 2, radius * 2)
  c.globalCompositeOperation = 'source-over'
}

export function sky(c: Context, w: number, horizon: number, hour: Hour, t: number, seed: number): void {
  c.fillStyle = gradient(c, 0, 0, 0, horizon, hour.sky)
  c.fillRect(0, 0, w, horizon + 2)
  const r = random(seed)
  if (hour === NIGHT)
    for (let i = 0; i < 90; i++) {
      c.fillStyle = `rgba(240,235,255,${0.15 + 0.5 * r() * (0.7 + 0.3 * Math.sin(t * 2 + i))})`
      c.fillRect(r() * w, r() * horizon * 0.8, 1.6, 1.6)
    }
  for (let i = 0; i < 9; i++) {
    const y = horizon * (0.12 + 0.62 * r())
    const long = w * (0.16 + 0.26 * r())
    const x = ((r() * w * 1.5 + t * (6 + 9 * r())) % (w * 1.5)) - w * 0.25
    for (let k = 0; k < 4; k++) {
      c.fillStyle = `rgba(255,${205 - i * 6},${190 - i * 4},${hour === NIGHT ? 0.02 : 0.07})`
      c.beginPath()
      c.ellipse(x + (k - 1.5) * long * 0.18, y + (k % 2) * 5, long * (0.5 - 0.08 * k), 7 + 5 * r(), 0, 0, Math.PI * 2)
      c.fill()
    }
  }
}

export function hills(c: Context, w: number, horizon: number, hour: Hour, shift: number): void {
  hour.hills.forEach((colour, layer) => {
    const high = horizon * (0.3 - layer * 0.085)
    c.fillStyle = colour
    c.beginPath()
    c.moveTo(0, horizon + 2)
    for (let x = 0; x <= w; x += 6) {
      const u = (x + shift * (1 + layer)) / w
      const y =
        Math.abs(Math.sin(u * (3.1 + layer) + layer * 2)) * 0.6 +
        0.25 * Math.sin(u * 9 + layer) +
        0.12 * Math.sin(u * 23 + layer * 5)
      c.lineTo(x, horizon - high * (0.35 + 0.55 * Math.max(y, -0.2)))
    }
    c.lineTo(w, horizon + 2)
    c.fill()
  })
}

/** Houses along the quay with lit windows, and the tower of the harbour light. */
export function village(c: Context, x: number, horizon: number, size: number, hour: Hour, t: number): void {
  const r = random(7)
  const dark = hour.hills.at(-1)!
  let at = x
  for (let i = 0; i < 11; i++) {
    const wide = size * (0.5 + 0.4 * r())
    const tall = size * (0.45 + 0.6 * r())
    c.fillStyle = dark
    c.fillRect(at, horizon - tall, wide + 1, tall)
    c.beginPath()
    c.moveTo(at - size * 0.05, horizon - tall)
    c.lineTo(at + wide / 2, horizon - tall - size * 0.32)
    c.lineTo(at + wide + size * 0.05, horizon - tall)
    c.fill()
    for (let k = 0; k < 4; k++) {
      const lit = r()
      if (lit < 0.35) continue
      c.fillStyle = hour.window
      c.globalAlpha = 0.55 + 0.4 * lit + 0.05 * Math.sin(t * 3 + i + k)
      c.fillRect(
        at + wide * (0.18 + 0.42 * (k % 2)),
        horizon - tall * (0.75 - 0.38 * (k >> 1)),
        wide * 0.2,
        size * 0.13,
      )
      c.globalAlpha = 1
    }
    at += wide
  }
  c.fillStyle = dark
  c.fillRect(x + size * 3.1, horizon - size * 2.3, size * 0.34, size * 2.3)
  c.fillRect(x + size * 3.02, horizon - size * 2.45, size * 0.5, size * 0.18)
  glow(c, x + size * 3.27, horizon - size * 2.3, size * (1 + 0.12 * Math.sin(t * 1.7)), hour.glow, 0.9)
}

/**
 * Moving water from `top` to `bottom`: a gradient, glints that drift and shorten with distance, and a path of light.
 */
export function water(
  c: Context,
  w: number,
  top: number,
  bottom: number,
  hour: Hour,
  t: number,
  light: number | null,
): void {
  c.fillStyle = gradient(c, 0, top, 0, bottom, hour.water)
  c.fillRect(0, top, w, bottom - top + 1)
  const r = random(42)
  for (let i = 0; i < 130; i++) {
    const depth = r() ** 1.8
    const y = top + 2 + depth * (bottom - top)
    const long = 10 + 150 * depth * r()
    const x =
      ((((r() * (w + 200) + t * (8 + 50 * depth) * (i % 2 ? 1 : -0.6) + 20 * Math.sin(t * 1.1 + i)) % (w + 200)) +
        w +
        200) %
        (w + 200)) -
      100
    const near = light === null ? 0 : Math.exp(-(((x + long / 2 - light) / (60 + 240 * depth)) ** 2))
    const strength = (0.05 + 0.32 * near) * (0.6 + 0.4 * Math.sin(t * 2.3 + i * 1.7))
    c.strokeStyle = `rgba(255,${190 + 30 * near},${150 + 30 * near},${strength})`
    c.lineWidth = 1 + 2.6 * depth
    c.beginPath()
    c.moveTo(x, y)
    c.quadraticCurveTo(x + long / 2, y + 2.4 * depth * Math.sin(t * 2 + i), x + long, y)
    c.stroke()
  }
}

/** A folded paper boat with its lantern, its light and its reflection. `s` is its width in pixels. */
export function boat(c: Context, x: number, y: number, s: number, t: number, seed: number, hour: Hour): void {
  const bob = wander(t, seed) * s * 0.04
  const flicker = 0.82 + 0.12 * wander(t * 4, seed) + 0.06 * Math.sin(t * 19 + seed)
  c.save()
  c.globalAlpha = 0.3
  c.fillStyle = `rgb(${hour.glow})`
  for (let k = 0; k < 7; k++) {
    const off = Math.sin(t * 3 + k * 1.3 + seed) * s * 0.05
    c.fillRect(x - s * (0.17 - 0.016 * k) + off, y + s * (0.16 + 0.11 * k), s * (0.34 - 0.032 * k), s * 0.045)
  }
  c.restore()
  glow(c, x, y - s * 0.2 + bob, s * 1.5, hour.glow, 0.62 * flicker)
  c.save()
  c.translate(x, y + bob)
  c.rotate(wander(t * 0.8, seed + 3) * 0.06)
  c.fillStyle = gradient(c, 0, -s * 0.55, 0, 0, ['#fff0c4', '#ffcf7a', '#f09a48'])
  c.beginPath()
  c.roundRect(-s * 0.15, -s * 0.52, s * 0.3, s * 0.44, s * 0.03)
  c.fill()
  c.strokeStyle = 'rgba(120,60,30,0.5)'
  c.lineWidth = Math.max(1, s * 0.012)
  for (const dx of [-0.05, 0.05]) {
    c.beginPath()
    c.moveTo(s * dx, -s * 0.52)
    c.lineTo(s * dx, -s * 0.08)
    c.stroke()
  }
  c.fillStyle = gradient(c, -s * 0.5, 0, s * 0.5, 0, ['#f4e3cb', '#fff6e4', '#d8b796'])
  c.beginPath()
  c.moveTo(-s * 0.5, -s * 0.12)
  c.lineTo(-s * 0.16, -s * 0.03)
  c.lineTo(0, -s * 0.2)
  c.lineTo(s * 0.16, -s * 0.03)
  c.lineTo(s * 0.5, -s * 0.12)
  c.lineTo(s * 0.28, s * 0.16)
  c.lineTo(-s * 0.28, s * 0.16)
  c.closePath()
  c.fill()
  c.fillStyle = 'rgba(120,70,60,0.22)'
  c.beginPath()
  c.moveTo(0, -s * 0.2)
  c.lineTo(s * 0.16, -s * 0.03)
  c.lineTo(s * 0.5, -s * 0.12)
  c.lineTo(s * 0.28, s * 0.16)
  c.lineTo(0, s * 0.16)
  c.closePath()
  c.fill()
  c.restore()
  glow(c, x, y - s * 0.3 + bob, s * 0.5, '255,236,190', 0.6 * flicker)
}

/** A person in silhouette, `s` pixels tall, standing at (x, y). */
export function figure(c: Context, x: number, y: number, s: number, colour: string, sway: number, step = 0): void {
  c.save()
  c.translate(x, y)
  c.fillStyle = colour
  c.strokeStyle = colour
  c.lineCap = 'round'
  c.lineWidth = s * 0.085
  for (const side of [-1, 1]) {
    c.beginPath()
    c.moveTo(sway * s * 0.1, -s * 0.42)
    c.lineTo(side * Math.sin(step) * s * 0.12 + side * s * 0.03, 0)
    c.stroke()
  }
  c.beginPath()
  c.ellipse(sway * s * 0.15, -s * 0.6, s * 0.125, s * 0.23, sway * 0.2, 0, Math.PI * 2)
  c.fill()
  c.beginPath()
  c.ellipse(sway * s * 0.22, -s * 0.9, s * 0.075, s * 0.09, 0, 0, Math.PI * 2)
  c.fill()
  c.restore()
}

const vignettes = new Map<string, Canvas>()

/** Darkens towards the edges. Drawn once per size. */
export function vignette(c: Context, w: number, h: number, strength: number): void {
  const key = `${w} ${h} ${strength}`
  let sprite = vignettes.get(key)
  if (!sprite) {
    sprite = createCanvas(w, h)
    const s = sprite.getContext('2d')
    const g = s.createRadialGradient(w / 2, h / 2, Math.min(w, h) * 0.4, w / 2, h / 2, Math.hypot(w, h) * 0.56)
    g.addColorStop(0, 'rgba(8,5,14,0)')
    g.addColorStop(1, `rgba(8,5,14,${strength})`)
    s.fillStyle = g
    s.fillRect(0, 0, w, h)
    vignettes.set(key, sprite)
  }
  c.drawImage(sprite, 0, 0)
}
