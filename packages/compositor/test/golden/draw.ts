import { BLEND_MODES, resolveParams, type FramePlan, type LayerPlan } from '@dusk/timeline'
import {
  Compositor,
  EFFECT_FAMILIES,
  FAMILIES,
  Picture,
  PICTURE_EFFECTS,
  TRANSITIONS,
  type Engine,
} from '../../src/index'

/** Size of one picture on a sheet. */
export const WIDTH = 96
export const HEIGHT = 54
/** Points of a change that are drawn. */
export const PROGRESS = [0.2, 0.5, 0.8] as const

/** One row of a sheet: what it shows and its pictures, opaque RGBA. */
export interface Row {
  name: string
  pictures: Uint8Array[]
}

/** A dusk sky with a lantern, or by day a quay: shapes and slopes enough to see what a change does. */
function scene(engine: Engine, day: boolean): Picture {
  const picture = Picture.rgba(engine, WIDTH, HEIGHT)
  const pixels = picture.bytes()
  const put = (x: number, y: number, r: number, g: number, b: number) => pixels.set([r, g, b, 255], (y * WIDTH + x) * 4)
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const down = y / HEIGHT
      if (day) put(x, y, 20 + 100 * down, 70 + 130 * down, 90 + 100 * down)
      else put(x, y, 60 + 150 * down, 40 + 70 * down, 90 - 40 * down)
      const [dx, dy] = day ? [x - 66, y - 30] : [x - 30, y - 22]
      const away = dx * dx + dy * dy
      if (day && away < 150) put(x, y, 196, 61, 90)
      if (!day && away < 60) put(x, y, 255, 210, 122)
      if (day && x > 10 && x < 28 && y > 10 && y < 44) put(x, y, 243, 236, 226)
      if (!day && x > 56 && x < 80 && y > 16 && y < 38) put(x, y, 18, 13, 26)
    }
  return picture
}

/** Draws the sheets: one for each family of transitions and of effects, and one of all blend modes. */
export function drawSheets(engine: Engine): Map<string, Row[]> {
  const pictures = [scene(engine, false), scene(engine, true)]
  const compositor = new Compositor(engine)
  const base = { width: WIDTH, height: HEIGHT, matrix: [1, 0, 0, 1, 0, 0] as const, opacity: 1, alpha: false, time: 0 }
  const from = { kind: 'picture' as const, assetId: 'dusk', ...base }
  const to = { kind: 'picture' as const, assetId: 'day', ...base }
  const draw = (layers: LayerPlan[]) => {
    const plan: FramePlan = { width: WIDTH, height: HEIGHT, background: '#000000', layers, passThrough: false }
    return compositor.compose(plan, pictures).pixels().slice()
  }
  const sheets = new Map<string, Row[]>()
  for (const family of Object.keys(FAMILIES)) {
    const rows = TRANSITIONS.filter((kind) => kind.family === family).map((kind) => ({
      name: kind.name,
      pictures: PROGRESS.map((progress) =>
        draw([{ kind: 'transition', transition: kind.id, settings: {}, progress, from, to }]),
      ),
    }))
    sheets.set(family, rows)
  }
  const blends = BLEND_MODES.map((mode) => {
    const blend = mode === 'normal' ? {} : { blend: mode }
    return { name: mode, pictures: [1, 0.6, 0.25].map((opacity) => draw([from, { ...to, ...blend, opacity }])) }
  })
  sheets.set('blends', blends)
  for (const family of Object.keys(EFFECT_FAMILIES)) {
    const kinds = PICTURE_EFFECTS.filter(
      (kind) => kind.family === family && !['lutFile', 'cutAway', 'steadyNoise'].includes(kind.id),
    )
    const rows = kinds.map((kind) => {
      const looks = [{}, kind.presets[0]?.settings ?? {}, kind.presets.at(-1)?.settings ?? {}]
      const drawn = looks.map((settings, i) => {
        const stack = [
          { kind: kind.id, settings: resolveParams(kind.params, settings, 0), strength: i === 1 ? 0.6 : 1 },
        ]
        // A sixth of a usual picture, a moment in: what moves by itself does.
        return draw([{ ...from, alpha: true, effects: { stack, scale: 0.16, time: 1.3 } }])
      })
      return { name: `${kind.name}${kind.presets[0] ? ` · ${kind.presets[0].name}` : ''}`, pictures: drawn }
    })
    sheets.set(`effects-${family}`, rows)
  }
  for (const picture of pictures) picture.release()
  compositor.release()
  return sheets
}
