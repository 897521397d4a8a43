import {
  invert,
  multiply,
  resolveParams,
  type EffectsPlan,
  type MaskPlan,
  type Matrix,
  type OutputSize,
  type PictureLayer,
  type PlacedLayer,
} from '@dusk/timeline'
import type { Engine } from '../engine'
import type { Paint } from '../layers/frameStyle'
import type { LayerPainter } from '../layers/layerPainter'
import { MaskPainter } from '../masks/maskPainter'
import { Picture } from '../picture'
import { LutStore } from './colour/lut'
import type { ColourChange, CubeFiles, EffectKind, EffectSettings } from './define'
import { GradedPictures } from './gradedPictures'
import { pictureEffect } from './index'
import { EffectStage, type Bounds } from './stage'
import { NoiseTile } from './tools/noise'

/** Largest side of the sheet that effects are worked out on; larger pictures are treated smaller and enlarged. */
const LARGEST = 4096
/** How many times as many pixels a source may have as are drawn of it, to have its own colours changed. */
const MORE = 1.3
/** Farthest that effects may reach beyond a picture, in pixels. */
const FARTHEST = 600

/** An effect that is to be drawn, with what is set. */
interface Step {
  kind: EffectKind
  settings: EffectSettings
  /** 0 to 1. */
  strength: number
  mask?: MaskPlan
}

/** Draws effects on pictures. */
export class EffectPainter {
  private readonly luts: LutStore
  private readonly pictures: GradedPictures
  private readonly masks: MaskPainter
  private readonly noise: NoiseTile
  private files: CubeFiles = () => null
  /** Whether settings that show something while one works on it are followed. */
  inspecting = false

  constructor(
    private readonly engine: Engine,
    private readonly painter: LayerPainter,
  ) {
    this.luts = new LutStore(engine)
    this.pictures = new GradedPictures(engine)
    this.masks = new MaskPainter(engine)
    this.noise = new NoiseTile(engine)
  }

  /**
   * A layer's own picture with its effects, as something that is drawn in its place. It is worked out upright at its
   * size in the output and then turned with the layer.
   * @param around draws the frames before and after it, nearest first
   * @param owned takes the picture that is made; it is released after the layer
   */
  wrap(layer: PlacedLayer, effects: EffectsPlan, paint: Paint, owned: Picture[], around: readonly Paint[] = []): Paint {
    const { kernels } = this.engine
    const [a, b, c, d, e, f] = layer.matrix
    let [sx, sy] = [Math.sqrt(a * a + b * b), Math.sqrt(c * c + d * d)]
    if (!(sx > 0) || !(sy > 0)) return paint
    const shrink = Math.min(1, LARGEST / Math.max(layer.width * sx, layer.height * sy))
    ;[sx, sy] = [sx * shrink, sy * shrink]
    const steps = stepsOf(effects, this.inspecting)
    const scale = effects.scale * shrink
    const reach = steps.reduce((sum, { kind, settings }) => {
      return sum + ('draw' in kind ? (kind.reach?.(settings, scale) ?? 0) : 0)
    }, 0)
    const pad = Math.min(FARTHEST, reach)
    const upright = b === 0 && c === 0 && a > 0 && d > 0 && shrink === 1
    // Upright pictures keep their place within a pixel, so that laying them down is a plain copy.
    const [fx, fy] = upright ? [e - Math.floor(e), f - Math.floor(f)] : [0, 0]
    const bounds: Bounds = { x: pad + fx, y: pad + fy, width: layer.width * sx, height: layer.height * sy }
    const local: Matrix = [sx, 0, 0, sy, bounds.x, bounds.y]
    const sheet = Picture.rgba(
      this.engine,
      Math.max(1, Math.ceil(bounds.width + fx) + 2 * pad),
      Math.max(1, Math.ceil(bounds.height + fy) + 2 * pad),
    )
    owned.push(sheet)
    kernels.fill(sheet.address(), sheet.width * sheet.height, 0)
    paint(local, 1, sheet)
    this.run(
      steps,
      sheet,
      bounds,
      scale,
      effects.time,
      around.map((one) => (target) => one(local, 1, target)),
    )
    const back = invert(local)!
    return (matrix, opacity, target) =>
      this.painter.draw(sheet, multiply(matrix, back), opacity, false, target.address(), target.width, target.height)
  }

  /**
   * Effects on all of a canvas.
   * @param bounds where the picture that they belong to lies; without it the canvas itself
   */
  onCanvas(canvas: Picture, effects: EffectsPlan, bounds?: Bounds): void {
    const all = bounds ?? { x: 0, y: 0, width: canvas.width, height: canvas.height }
    this.run(stepsOf(effects, this.inspecting), canvas, all, effects.scale, effects.time)
  }

  /**
   * A layer's picture with the colour effects that its stack begins with, and the layer without them: where that is no
   * more work than to change the colours of what is drawn of it, and otherwise both as they are.
   * @returns a picture that is good until the next call
   */
  graded(
    picture: Picture,
    layer: PictureLayer,
    { width, height }: OutputSize,
  ): { picture: Picture; layer: PictureLayer } {
    const { effects, beside } = layer
    const [a, b, c, d] = layer.matrix
    const drawn = Math.min(Math.abs(a * d - b * c) * layer.width * layer.height, width * height)
    if (!effects || beside || picture.width * picture.height > drawn * MORE) return { picture, layer }
    const count = effects.stack.findIndex(({ kind, mask }) => mask || !isColour(kind))
    const stack = count < 0 ? effects.stack : effects.stack.slice(0, count)
    const steps = stepsOf({ ...effects, stack }, this.inspecting)
    if (steps.length === 0) return { picture, layer }
    const { name, change } = tableOf(steps, this.files)
    const graded = this.pictures.graded(picture, name, this.luts.get(name, change))
    if (!graded) return { picture, layer }
    const rest = effects.stack.slice(stack.length)
    return {
      picture: graded,
      layer: { ...layer, effects: rest.length > 0 ? { ...effects, stack: rest } : undefined },
    }
  }

  /** An opaque picture as film, or `null` where that is not to be had; good until the next call. */
  film(picture: Picture): Picture | null {
    return this.pictures.film(picture)
  }

  /** Says where tables of colours come from that effects name. */
  useFiles(files: CubeFiles): void {
    this.files = files
  }

  release(): void {
    this.pictures.release()
    this.luts.release()
    this.masks.release()
    this.noise.release()
  }

  private run(
    steps: readonly Step[],
    picture: Picture,
    bounds: Bounds,
    scale: number,
    time: number,
    around: readonly ((target: Picture) => void)[] = [],
  ): void {
    const stage = new EffectStage(
      this.engine,
      this.painter,
      picture,
      bounds,
      scale,
      time,
      around,
      this.luts,
      this.noise,
    )
    for (let i = 0; i < steps.length;) {
      const run: Step[] = []
      while (i < steps.length && 'colour' in steps[i]!.kind && !steps[i]!.mask) run.push(steps[i++]!)
      if (run.length > 0) recolour(run, stage, this.files)
      else this.draw(steps[i++]!, stage)
    }
  }

  private draw(step: Step, stage: EffectStage): void {
    const { kind, settings, strength, mask } = step
    const { picture, engine, pixels, bounds, scale } = stage
    const { width, height } = picture
    const outside = 'draw' in kind && kind.outside === true
    if (outside && !mask) return
    const before = strength < 1 || mask ? stage.copy() : null
    if ('draw' in kind) kind.draw(stage, settings)
    else recolour([{ ...step, strength: 1 }], stage, this.files)
    if (!before) return
    const [was, is] = [before.address(), picture.address()]
    if (!mask || outside) engine.kernels.dissolve(was, is, is, pixels, Math.round(strength * 32_768))
    if (mask) {
      const plane = this.masks.plane(mask, { width, height, bounds, scale })
      if (outside) engine.kernels.mixByCover(is, was, is, plane, pixels, 1)
      else engine.kernels.mixByCover(was, is, is, plane, pixels, strength)
    }
    before.release()
  }
}

/** Neighbouring colour effects as one table. */
function recolour(run: readonly Step[], stage: EffectStage, files: CubeFiles): void {
  const { name, change } = tableOf(run, files)
  stage.recolour(name, change)
}

/** What neighbouring colour effects do together, and a name for just that. */
function tableOf(run: readonly Step[], files: CubeFiles): { name: string; change: ColourChange } {
  // A file that comes later makes another table.
  const there = ({ file }: EffectSettings) => typeof file === 'string' && file !== '' && files(file) !== null
  const name = JSON.stringify(run.map(({ kind, settings, strength }) => [kind.id, settings, strength, there(settings)]))
  const changes = run.map(({ kind, settings, strength }) =>
    mixed('colour' in kind ? kind.colour(settings, files) : () => {}, strength),
  )
  return { name, change: (rgb) => changes.forEach((change) => change(rgb)) }
}

/** A change mixed with the colour before it. */
function mixed(change: ColourChange, strength: number): ColourChange {
  if (strength >= 1) return change
  return (rgb) => {
    const [r, g, b] = [rgb[0]!, rgb[1]!, rgb[2]!]
    change(rgb)
    rgb[0] = r + (rgb[0]! - r) * strength
    rgb[1] = g + (rgb[1]! - g) * strength
    rgb[2] = b + (rgb[2]! - b) * strength
  }
}

/**
 * What a stack does to a colour, all of its colour effects one after the other, for keeping it as a table.
 * @returns the change, and the names of the effects that are left out: those that draw, or act only where a mask covers
 */
export function stackColour(
  stack: EffectsPlan['stack'],
  files: CubeFiles = () => null,
): { change: ColourChange; left: string[] } {
  const steps = stepsOf({ stack, scale: 1, time: 0 })
  const taken = steps.filter(({ kind, mask }) => 'colour' in kind && !mask)
  const changes = taken.map(({ kind, settings, strength }) =>
    mixed('colour' in kind ? kind.colour(settings, files) : () => {}, strength),
  )
  return {
    change: (rgb) => changes.forEach((change) => change(rgb)),
    left: steps.filter((step) => !taken.includes(step)).map(({ kind }) => kind.name),
  }
}

/** Whether an effect changes each colour by itself. Those that this version does not know change nothing. */
function isColour(id: string): boolean {
  const kind = pictureEffect(id)
  return !kind || 'colour' in kind
}

/** Whether effects leave a picture without transparency as solid as it was. */
export function keepsSolid({ stack }: EffectsPlan): boolean {
  return stack.every(({ kind }) => isColour(kind))
}

/** What is to be drawn: effects this version does not know are passed over. */
function stepsOf({ stack }: EffectsPlan, inspecting = false): Step[] {
  return stack.flatMap(({ kind: id, settings, strength, mask }) => {
    const kind = pictureEffect(id)
    if (!kind || strength === 0) return []
    const resolved = resolveParams(kind.params, settings, 0)
    if (!inspecting) for (const param of kind.params) if (param.inspects) resolved[param.key] = param.default
    return [{ kind, settings: resolved, strength, ...(mask ? { mask } : {}) }]
  })
}
