import { DUSK, figure, glow, gradient, sky, vignette, water, boat, type Context } from '../draw'
import { wander } from '../random'
import { keeperSpeech } from '../audio/speech'
import { lapping, noise, add, over, silence } from '../audio/synth'
import { EFFECTS } from '../audio/effects'
import { FPS, type Scene } from '../scene'

const SKIN = ['#c98a66', '#a8694b']

/** A hand from its wrist at (x, y), reaching along `angle`, `s` pixels long. */
function hand(c: Context, x: number, y: number, s: number, angle: number, mirror: 1 | -1, curl: number): void {
  c.save()
  c.translate(x, y)
  c.rotate(angle)
  c.scale(1, mirror)
  c.lineCap = 'round'
  c.fillStyle = gradient(c, -s, 0, s, 0, [SKIN[1]!, SKIN[0]!])
  c.strokeStyle = SKIN[0]!
  c.fillRect(-s * 1.7, -s * 0.24, s * 1.8, s * 0.46)
  c.beginPath()
  c.ellipse(s * 0.25, 0, s * 0.46, s * 0.33, 0, 0, Math.PI * 2)
  c.fill()
  c.lineWidth = s * 0.15
  for (let i = 0; i < 4; i++) {
    const spread = (i - 1.5) * 0.16
    c.beginPath()
    c.moveTo(s * 0.5, s * spread)
    c.quadraticCurveTo(
      s * 0.85,
      s * spread * 1.2,
      s * (1.08 - 0.06 * Math.abs(i - 1)) - curl * s * 0.12,
      s * (spread + curl * 0.2),
    )
    c.stroke()
  }
  c.beginPath()
  c.moveTo(s * 0.15, s * 0.26)
  c.quadraticCurveTo(s * 0.5, s * 0.5, s * 0.78, s * 0.34)
  c.stroke()
  c.restore()
}

/** Close-up: a sheet becomes a boat under two hands. */
export const paperFolding: Scene = {
  name: 'paper-folding.mp4',
  width: 1280,
  height: 720,
  rate: FPS.f25,
  seconds: 6,
  draw(c, t) {
    c.fillStyle = gradient(c, 0, 0, 1280, 720, ['#4a2c22', '#6b4230', '#3a221c'])
    c.fillRect(0, 0, 1280, 720)
    for (let i = 0; i < 26; i++) {
      c.strokeStyle = `rgba(20,8,4,${0.1 + 0.05 * Math.sin(i * 3)})`
      c.lineWidth = 2 + (i % 4)
      c.beginPath()
      for (let x = 0; x <= 1280; x += 40) c.lineTo(x, i * 29 + 7 * Math.sin(x / 190 + i * 1.3))
      c.stroke()
    }
    const f = 0.5 - 0.5 * Math.cos(Math.min(t / 5.2, 1) * Math.PI)
    c.save()
    c.translate(640, 400)
    c.rotate(-0.05 + 0.03 * Math.sin(t * 0.8))
    c.shadowColor = 'rgba(10,4,4,0.55)'
    c.shadowBlur = 18
    c.shadowOffsetY = 16
    const [w, h] = [330 - 60 * f, 210 - 70 * f]
    c.fillStyle = gradient(c, 0, -h, 0, h, ['#fff3dc', '#e7cfae'])
    c.beginPath()
    c.moveTo(-w, -h + h * 1.1 * f)
    c.lineTo(0, -h)
    c.lineTo(w, -h + h * 1.1 * f)
    c.lineTo(w - 150 * f, h)
    c.lineTo(-w + 150 * f, h)
    c.closePath()
    c.fill()
    c.shadowColor = 'transparent'
    c.fillStyle = gradient(c, 0, -h, 0, h, ['#f7e2c2', '#cfae8a'])
    c.beginPath()
    c.moveTo(0, -h)
    c.lineTo(w * (1 - f), -h + h * 0.9 * f)
    c.lineTo(w * 0.55 * f + 4, h * 0.75 * f)
    c.lineTo(0, h * 0.3)
    c.closePath()
    c.fill()
    c.strokeStyle = 'rgba(120,80,50,0.4)'
    c.lineWidth = 2
    c.beginPath()
    c.moveTo(0, -h)
    c.lineTo(0, h)
    c.stroke()
    c.restore()
    hand(
      c,
      300 + 120 * f + 12 * Math.sin(t * 2.1),
      610 - 60 * f,
      150,
      -0.55 + 0.1 * Math.sin(t * 1.7),
      -1,
      0.4 + 0.4 * Math.sin(t * 2.1),
    )
    hand(
      c,
      1010 - 150 * f + 14 * Math.sin(t * 2.4 + 1),
      560 - 90 * Math.sin(f * Math.PI),
      150,
      Math.PI + 0.5,
      1,
      0.4 + 0.4 * Math.sin(t * 2.4),
    )
    glow(c, 980, 60, 620, '255,196,120', 0.5 + 0.02 * Math.sin(t * 11))
    vignette(c, 1280, 720, 0.55)
  },
  sound() {
    const out = silence(6)
    for (const at of [0.4, 1.9, 3.2, 4.4]) over(out, EFFECTS['paper-rustle']!(), at, 0.6)
    return over(out, lapping(6, 0.06, 41))
  },
}

/** A telephone held upright: down the steps to the water. */
export const stepsTall: Scene = {
  name: 'steps-tall.mp4',
  width: 1080,
  height: 1920,
  rate: FPS.f30,
  seconds: 5,
  draw(c, t) {
    sky(c, 1080, 760, DUSK, t, 33)
    glow(c, 700, 740, 420, '255,190,120', 0.7)
    water(c, 1080, 760, 1150, DUSK, t, 700)
    for (let i = 0; i < 5; i++) boat(c, 120 + i * 210 + t * 10, 830 + (i % 3) * 80, 60 + (i % 3) * 26, t, i + 90, DUSK)
    for (let i = 0; i < 9; i++) {
      const y = 1120 + i * 92
      c.fillStyle = gradient(c, 0, y, 0, y + 92, [['#5d4660', '#362843'][0]!, '#241a30'])
      c.fillRect(0, y, 1080, 100)
      c.fillStyle = 'rgba(255,190,130,0.12)'
      c.fillRect(0, y, 1080, 7)
    }
    c.fillStyle = '#1c1428'
    c.fillRect(0, 560, 130, 1360)
    c.fillRect(950, 640, 130, 1280)
    const y = 1850 - t * 66
    const s = 620 - t * 34
    const x = 520 + 26 * Math.sin(t * 3)
    figure(c, x, y, s, '#140d20', Math.sin(t * 3) * 0.12, Math.sin(t * 6) * 0.9)
    const lx = x + s * 0.24
    c.strokeStyle = '#140d20'
    c.lineWidth = s * 0.05
    c.beginPath()
    c.moveTo(x + 10, y - s * 0.68)
    c.lineTo(lx, y - s * 0.5)
    c.stroke()
    c.fillStyle = '#ffd68a'
    c.beginPath()
    c.roundRect(lx - 24, y - s * 0.5 + 18 + 4 * Math.sin(t * 6), 48, 66, 12)
    c.fill()
    glow(c, lx, y - s * 0.44, 260, DUSK.glow, 0.8 + 0.06 * Math.sin(t * 9))
    vignette(c, 1080, 1920, 0.4)
  },
  sound: () =>
    over(
      over(silence(5), EFFECTS['steps-on-stone']!(), 0.2, 0.5),
      over(lapping(5, 0.3, 47), EFFECTS['steps-on-stone']!(), 3.1, 0.5),
    ),
}

/** Head and shoulders. `mouth` 0 to 1 opens it. */
function bust(
  c: Context,
  x: number,
  y: number,
  s: number,
  t: number,
  mouth: number,
  coat: string[],
  hair: string,
): void {
  const nod = wander(t * 0.9, 5) * s * 0.02
  c.fillStyle = gradient(c, x - s, y, x + s, y + s, coat)
  c.beginPath()
  c.moveTo(x - s * 1.05, y + s * 1.7)
  c.quadraticCurveTo(x - s * 1, y + s * 0.62, x - s * 0.3, y + s * 0.5)
  c.lineTo(x + s * 0.3, y + s * 0.5)
  c.quadraticCurveTo(x + s * 1, y + s * 0.62, x + s * 1.05, y + s * 1.7)
  c.fill()
  c.fillStyle = SKIN[1]!
  c.fillRect(x - s * 0.17, y + s * 0.25, s * 0.34, s * 0.34)
  c.save()
  c.translate(x + nod, y + nod * 0.6)
  c.rotate(wander(t * 0.7, 8) * 0.03)
  c.fillStyle = hair
  c.beginPath()
  c.ellipse(0, -s * 0.16, s * 0.43, s * 0.48, 0, 0, Math.PI * 2)
  c.fill()
  c.fillStyle = gradient(c, -s * 0.4, 0, s * 0.4, 0, [SKIN[0]!, '#d79c78', SKIN[1]!])
  c.beginPath()
  c.ellipse(0, 0, s * 0.36, s * 0.45, 0, 0, Math.PI * 2)
  c.fill()
  const blink = t % 3.1 < 0.12 ? 0.15 : 1
  for (const side of [-1, 1]) {
    c.fillStyle = '#f6ece0'
    c.beginPath()
    c.ellipse(side * s * 0.14, -s * 0.06, s * 0.062, s * 0.036 * blink, 0, 0, Math.PI * 2)
    c.fill()
    c.fillStyle = '#2c1c18'
    c.beginPath()
    c.arc(side * s * 0.14 + wander(t, 11) * s * 0.012, -s * 0.06, s * 0.03 * blink, 0, Math.PI * 2)
    c.fill()
    c.fillStyle = hair
    c.fillRect(side * s * 0.14 - s * 0.08, -s * 0.155 - mouth * s * 0.012, s * 0.16, s * 0.026)
  }
  c.strokeStyle = '#9a5f44'
  c.lineWidth = s * 0.022
  c.beginPath()
  c.moveTo(-s * 0.01, -s * 0.03)
  c.lineTo(s * 0.035, s * 0.1)
  c.lineTo(-s * 0.01, s * 0.11)
  c.stroke()
  c.fillStyle = '#5c2422'
  c.beginPath()
  c.ellipse(0, s * 0.23, s * (0.1 - 0.02 * mouth), s * (0.012 + 0.075 * mouth), 0, 0, Math.PI * 2)
  c.fill()
  c.restore()
}

/** A presenter before a green cloth that is not lit quite evenly. */
export const greenPresenter: Scene = {
  name: 'green-presenter.mp4',
  width: 1280,
  height: 720,
  rate: FPS.f25,
  seconds: 5,
  draw(c, t) {
    c.fillStyle = gradient(c, 0, 0, 1280, 720, ['#22a852', '#2bbf61', '#1d9a49'])
    c.fillRect(0, 0, 1280, 720)
    const talk = Math.max(0, Math.sin(t * 9) * Math.sin(t * 2.3))
    bust(c, 600, 300, 230, t, talk, ['#6a3c58', '#8d4f62'], '#2e2030')
    hand(
      c,
      930 + 40 * Math.sin(t * 1.6),
      560 - 60 * Math.max(0, Math.sin(t * 1.6)),
      120,
      -1.15 + 0.25 * Math.sin(t * 1.6),
      1,
      0.2,
    )
  },
  sound() {
    const out = silence(5)
    const room = noise(
      5,
      () => 900,
      () => 60,
    )
    add(out, 0, 5, (t) => room(t), 0.02)
    return out
  },
}

/** The keeper talks in the boat shed, after a clap that marks the start. */
export function keeperTalks(): Scene {
  const speech = keeperSpeech()
  return {
    name: 'keeper-talks.mp4',
    width: 1280,
    height: 720,
    rate: FPS.f25,
    seconds: speech.seconds,
    draw(c, t) {
      c.fillStyle = gradient(c, 0, 0, 0, 720, ['#3a2836', '#2a1d2b', '#1d1420'])
      c.fillRect(0, 0, 1280, 720)
      for (let i = 0; i < 11; i++) {
        c.fillStyle = i % 2 ? 'rgba(90,58,56,0.35)' : 'rgba(60,38,46,0.35)'
        c.fillRect(i * 120, 0, 116, 720)
      }
      c.fillStyle = gradient(c, 0, 90, 0, 330, DUSK.sky)
      c.fillRect(890, 90, 250, 240)
      c.fillStyle = '#231823'
      c.fillRect(1008, 90, 12, 240)
      c.fillRect(890, 204, 250, 12)
      c.strokeStyle = '#6a4a3a'
      c.lineWidth = 9
      c.beginPath()
      c.arc(190, 220, 92, 0, Math.PI * 2)
      c.stroke()
      glow(c, 300, 470, 330, DUSK.glow, 0.5 + 0.03 * Math.sin(t * 9))
      bust(c, 600, 320, 220, t, speech.level(t), ['#27384e', '#3b5470'], '#b9b2ad')
      const near = Math.max(0, 1 - Math.abs(t - speech.clapAt) / 0.6)
      if (near > 0) {
        const apart = 250 * (1 - near) ** 0.7
        hand(c, 600 - 60 - apart, 690, 120, -0.9, 1, 0)
        hand(c, 600 + 60 + apart, 690, 120, -Math.PI + 0.9, -1, 0)
      }
      vignette(c, 1280, 720, 0.5)
    },
    sound() {
      // A camera across the room: quieter, with a short echo and the shed's own noise.
      const out = silence(speech.seconds)
      over(out, speech.dry, 0, 0.42)
      over(out, speech.dry, 0.023, 0.12)
      over(out, speech.dry, 0.041, 0.07)
      const room = noise(
        77,
        () => 1400,
        () => 50,
      )
      add(out, 0, speech.seconds, (t) => room(t), 0.035)
      return out
    },
  }
}
