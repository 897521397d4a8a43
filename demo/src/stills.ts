import { createCanvas } from '@napi-rs/canvas'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { boat, DUSK, glow, hills, sky, vignette, village, water } from './draw'

/** Draws the stills into a folder: two photographs, and two cut-outs with transparency. */
export function drawStills(folder: string): string[] {
  const photo = (name: string, seed: number, shift: number) => {
    const canvas = createCanvas(1800, 1200)
    const c = canvas.getContext('2d')
    sky(c, 1800, 640, DUSK, seed, seed)
    glow(c, 500 + shift, 620, 560, '255,190,120', 0.8)
    hills(c, 1800, 640, DUSK, shift)
    village(c, 900 - shift / 3, 640, 80, DUSK, seed)
    water(c, 1800, 640, 1200, DUSK, seed, 500 + shift)
    for (let i = 0; i < 9; i++)
      boat(c, 100 + i * 210, 720 + ((i * 7) % 5) * 90, 60 + ((i * 7) % 5) * 34, seed + i, i, DUSK)
    vignette(c, 1800, 1200, 0.35)
    writeFileSync(join(folder, name), canvas.toBuffer('image/jpeg', 92))
    return name
  }
  const cut = (name: string, draw: (c: ReturnType<ReturnType<typeof createCanvas>['getContext']>) => void) => {
    const canvas = createCanvas(900, 900)
    draw(canvas.getContext('2d'))
    writeFileSync(join(folder, name), canvas.toBuffer('image/png'))
    return name
  }
  return [
    photo('quay-at-seven.jpg', 3, 400),
    photo('last-light.jpg', 8, 900),
    cut('paper-boat.png', (c) => {
      boat(c, 450, 540, 600, 1, 4, DUSK)
      // Its light goes out before the edge of the picture: otherwise that edge would be seen.
      const fade = c.createRadialGradient(450, 450, 310, 450, 450, 448)
      fade.addColorStop(0, '#000')
      fade.addColorStop(1, 'transparent')
      c.globalCompositeOperation = 'destination-in'
      c.fillStyle = fade
      c.fillRect(0, 0, 900, 900)
    }),
    cut('moon-lantern.png', (c) => {
      glow(c, 450, 450, 440, DUSK.glow, 0.8)
      c.fillStyle = '#ffe2a6'
      c.beginPath()
      c.arc(450, 450, 210, 0, Math.PI * 2)
      c.fill()
      c.strokeStyle = 'rgba(150,80,40,0.5)'
      c.lineWidth = 6
      for (let i = -3; i <= 3; i++) {
        c.beginPath()
        c.ellipse(450, 450, Math.abs(i) * 62 + 8, 210, 0, 0, Math.PI * 2)
        c.stroke()
      }
    }),
  ]
}
