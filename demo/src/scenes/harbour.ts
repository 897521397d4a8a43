import { boat, DUSK, figure, glow, hills, NIGHT, sky, vignette, village, water } from '../draw'
import { random, wander } from '../random'
import { lapping } from '../audio/synth'
import { FPS, type Scene } from '../scene'

/** The wide view: dusk over the harbour, boats going out. */
export const harbourWide: Scene = {
  name: 'harbour-wide.mp4',
  width: 1920,
  height: 1080,
  rate: FPS.f30,
  seconds: 7,
  draw(c, t) {
    const horizon = 560
    sky(c, 1920, horizon, DUSK, t, 5)
    glow(c, 1180 + t * 3, horizon - 30, 560, '255,190,120', 0.8)
    hills(c, 1920, horizon, DUSK, t * 5)
    village(c, 260 - t * 6, horizon, 74, DUSK, t)
    water(c, 1920, horizon, 1080, DUSK, t, 1180 + t * 3)
    const r = random(12)
    const boats = Array.from({ length: 15 }, (_, i) => ({ depth: r(), x: r() * 2100, seed: i })).sort(
      (a, b) => a.depth - b.depth,
    )
    for (const { depth, x, seed } of boats)
      boat(c, x - 90 + t * (8 + 24 * depth), horizon + 26 + depth * 430, 26 + depth * 128, t, seed, DUSK)
    vignette(c, 1920, 1080, 0.35)
  },
  sound: () => lapping(7, 0.5),
}

/** Low over the water: boats drift past. */
export const boatsDrifting: Scene = {
  name: 'boats-drifting.mp4',
  width: 1280,
  height: 720,
  rate: FPS.f25,
  seconds: 7,
  draw(c, t) {
    const horizon = 150
    sky(c, 1280, horizon, DUSK, t, 9)
    hills(c, 1280, horizon, DUSK, 300 + t * 8)
    water(c, 1280, horizon, 720, DUSK, t, 420 + t * 20)
    const r = random(31)
    const boats = Array.from({ length: 8 }, (_, i) => ({ depth: (i + r()) / 8, x: r() * 1500 - 200, seed: i + 20 }))
    for (const { depth, x, seed } of boats) {
      const px = x + t * (18 + 52 * depth)
      const py = horizon + 40 + depth * 430
      c.strokeStyle = 'rgba(255,220,180,0.16)'
      c.lineWidth = 2
      for (let k = 0; k < 3; k++) {
        const grow = ((t * 0.5 + k / 3 + seed * 0.17) % 1) * (40 + 160 * depth)
        c.beginPath()
        c.ellipse(px, py + 8, grow * 1.6, grow * 0.32, 0, 0, Math.PI * 2)
        c.stroke()
      }
      boat(c, px, py, 60 + depth * 190, t, seed, DUSK)
    }
    vignette(c, 1280, 720, 0.4)
  },
  sound: () => lapping(7, 0.7, 17),
}

/** Held by hand while walking along the rail: it shakes. */
export const handheldQuay: Scene = {
  name: 'handheld-quay.mp4',
  width: 1280,
  height: 720,
  rate: FPS.f30,
  seconds: 6,
  draw(c, t) {
    c.save()
    c.translate(640 + wander(t * 5, 1) * 17, 360 + wander(t * 6, 2) * 14 + Math.abs(Math.sin(t * 5.4)) * 9)
    c.rotate(wander(t * 3, 4) * 0.012)
    c.scale(1.1, 1.1)
    c.translate(-640, -360)
    const horizon = 330
    sky(c, 1280, horizon, DUSK, t, 14)
    hills(c, 1280, horizon, DUSK, 700 + t * 22)
    village(c, 640 - t * 30, horizon, 58, DUSK, t)
    water(c, 1280, horizon, 720, DUSK, t, 300)
    for (let i = 0; i < 5; i++)
      boat(c, 180 + i * 240 - t * 46, horizon + 70 + (i % 3) * 60, 54 + (i % 3) * 22, t, i + 50, DUSK)
    c.fillStyle = '#1a1326'
    c.fillRect(-100, 520, 1500, 20)
    c.fillRect(-100, 610, 1500, 16)
    for (let i = -1; i < 9; i++) c.fillRect(i * 190 - ((t * 120) % 190), 500, 22, 240)
    c.fillStyle = '#2a1f33'
    c.fillRect(-100, 690, 1500, 60)
    c.restore()
    vignette(c, 1280, 720, 0.35)
  },
  sound: () => lapping(6, 0.45, 23),
}

/** Too dark: one lamp on the pier at night. */
export const nightPier: Scene = {
  name: 'night-pier.mp4',
  width: 1280,
  height: 720,
  rate: FPS.film,
  seconds: 5,
  draw(c, t) {
    const horizon = 380
    sky(c, 1280, horizon, NIGHT, t, 3)
    hills(c, 1280, horizon, NIGHT, 200)
    water(c, 1280, horizon, 720, NIGHT, t, 900)
    c.fillStyle = '#07070f'
    c.beginPath()
    c.moveTo(420, 720)
    c.lineTo(860, 395)
    c.lineTo(930, 395)
    c.lineTo(1180, 720)
    c.fill()
    c.fillRect(892, 250, 7, 150)
    figure(c, 848 + 6 * Math.sin(t * 0.7), 470, 120, '#050509', Math.sin(t * 0.7) * 0.3)
    glow(c, 896, 250, 190, NIGHT.glow, 0.55 + 0.05 * Math.sin(t * 9))
    c.fillStyle = 'rgba(2,2,8,0.5)'
    c.fillRect(0, 0, 1280, 720)
  },
  sound: () => lapping(5, 0.25, 29),
}

/** People on the quay holding lanterns. */
export const quayCrowd: Scene = {
  name: 'quay-crowd.mp4',
  width: 1920,
  height: 1080,
  rate: FPS.film,
  seconds: 5,
  draw(c, t) {
    const horizon = 640
    sky(c, 1920, horizon, DUSK, t, 21)
    glow(c, 640, horizon, 620, '255,170,110', 0.7)
    hills(c, 1920, horizon, DUSK, 1300)
    water(c, 1920, horizon, 900, DUSK, t, 640)
    for (let i = 0; i < 7; i++) boat(c, 120 + i * 300 + t * 14, 700 + (i % 3) * 44, 46 + (i % 3) * 14, t, i + 70, DUSK)
    c.fillStyle = '#191226'
    c.fillRect(0, 880, 1920, 200)
    for (let i = 0; i < 12; i++) {
      const sway = Math.sin(t * 1.1 + i * 1.7)
      const x = 90 + i * 160 + 18 * Math.sin(i * 9)
      const s = 300 + 46 * Math.sin(i * 5.3)
      figure(c, x, 1010, s, '#120c1c', sway * 0.25)
      const lx = x + 62 + sway * 12
      const ly = 1010 - s * 0.66 + Math.cos(t * 1.1 + i) * 6
      c.strokeStyle = '#120c1c'
      c.lineWidth = 17
      c.beginPath()
      c.moveTo(x + sway * 12, 1010 - s * 0.66)
      c.lineTo(lx, ly + 20)
      c.stroke()
      c.fillStyle = '#ffd68a'
      c.beginPath()
      c.roundRect(lx - 20, ly + 14, 40, 54, 10)
      c.fill()
      glow(c, lx, ly + 40, 150, DUSK.glow, 0.7 + 0.1 * Math.sin(t * 8 + i * 2))
    }
    vignette(c, 1920, 1080, 0.35)
  },
  sound: () => lapping(5, 0.35, 37),
}
