import type { Asset } from '../document/asset'
import type { Clip, ReelClip } from '../document/clip'
import { clipEnd, clipsByTrack, tracksOf } from '../document/query'
import type { Project } from '../document/project'
import type { Fit, Reel } from '../document/reel'
import { IDENTITY, multiply, rotation, roundMatrix, scaling, translation, type Matrix } from './matrix'
import { sourceTimeAt } from './timeMap'

interface LayerBase {
  /** Size of the picture in its own pixels; a smaller proxy stands for the same size. */
  width: number
  height: number
  /** From the picture's pixels to output pixels. */
  matrix: Matrix
  /** 0 (unseen) to 1, rounded to 2⁻¹⁶. */
  opacity: number
  alpha: boolean
}

/** A picture of a source. */
export interface PictureLayer extends LayerBase {
  kind: 'picture'
  assetId: string
  /** Source time in ticks, inside the source; 0 for stills. */
  time: number
}

/** A nested reel, drawn by a plan of its own over nothing and then laid down as one picture. */
export interface ReelLayer extends LayerBase {
  kind: 'reel'
  plan: FramePlan
}

/** One thing to draw. */
export type LayerPlan = PictureLayer | ReelLayer

/** Everything needed to draw one frame, as plain data: no reel position, no clip ids. Layers are back to front. */
export interface FramePlan {
  width: number
  height: number
  /** A colour, or `null` for none: a nested reel keeps its transparency. */
  background: string | null
  layers: LayerPlan[]
  /** The only layer covers the output exactly and is untouched, so its decoded planes can be handed on as they are. */
  passThrough: boolean
}

/** Every picture a plan needs, those of nested reels included, in the order they are drawn. */
export function pictureLayers(plan: FramePlan): PictureLayer[] {
  return plan.layers.flatMap((layer) => (layer.kind === 'picture' ? [layer] : pictureLayers(layer.plan)))
}

/** Size in pixels of the picture to draw. */
export interface OutputSize {
  width: number
  height: number
}

/** Source pixels to reel pixels for a picture of another shape. Cover, contain or stretch, centred. */
export function fitMatrix(width: number, height: number, reelWidth: number, reelHeight: number, fit: Fit): Matrix {
  const x = reelWidth / width
  const y = reelHeight / height
  const [sx, sy] =
    fit === 'stretch' ? [x, y] : fit === 'fit' ? [Math.min(x, y), Math.min(x, y)] : [Math.max(x, y), Math.max(x, y)]
  return [sx, 0, 0, sy, (reelWidth - width * sx) / 2, (reelHeight - height * sy) / 2]
}

/** Source pixels to reel pixels for a clip: fitted, then sized and turned about the reel's centre, then moved. */
export function clipMatrix(
  clip: Pick<Clip, 'fit' | 'place'>,
  picture: { width: number; height: number },
  reel: Reel,
): Matrix {
  const { width, height } = reel.format
  const fitted = fitMatrix(picture.width, picture.height, width, height, clip.fit ?? reel.fit)
  const { x, y, scale, turn } = clip.place
  if (x === 0 && y === 0 && scale === 1 && turn === 0) return fitted
  const about = multiply(multiply(rotation(turn), scaling(scale, scale)), translation(-width / 2, -height / 2))
  return multiply(multiply(translation(width / 2 + x, height / 2 + y), about), fitted)
}

/** Keeps a source time inside the source: before and after it the edge frame is held. */
export function holdInside(time: number, asset: Asset): number {
  if (asset.kind === 'still') return 0
  return Math.min(Math.max(time, 0), Math.max(asset.length - 1, 0))
}

function isIdentity(m: Matrix): boolean {
  return m.every((value, i) => value === IDENTITY[i])
}

/**
 * A planner for many frames of one document: tracks and clips are sorted once, a frame then costs a search per track.
 */
export class FramePlanner {
  private readonly lanes: (readonly Clip[])[]
  private readonly reel: Reel
  private readonly nested = new Map<string, FramePlanner>()

  constructor(
    private readonly project: Project,
    reelId: string,
  ) {
    const reel = project.reels[reelId]
    if (!reel) throw new RangeError(`The project has no reel ${reelId}.`)
    this.reel = reel
    const byTrack = clipsByTrack(project)
    this.lanes = tracksOf(project, reelId)
      .filter((track) => track.kind === 'picture' && !track.hidden)
      .map((track) => byTrack.get(track.id) ?? [])
  }

  /** Picture clips showing at `tick`, back to front. */
  clipsAt(tick: number): Clip[] {
    const found: Clip[] = []
    for (const lane of this.lanes) {
      let low = 0
      let high = lane.length
      while (low < high) {
        const middle = (low + high) >> 1
        if (lane[middle]!.start <= tick) low = middle + 1
        else high = middle
      }
      const clip = lane[low - 1]
      if (clip && tick < clipEnd(clip)) found.push(clip)
    }
    return found
  }

  /** The frame at `tick`, drawn at `size`. */
  plan(tick: number, size: OutputSize): FramePlan {
    const toOutput = scaling(size.width / this.reel.format.width, size.height / this.reel.format.height)
    const layers: LayerPlan[] = []
    for (const clip of this.clipsAt(tick)) {
      if (clip.opacity <= 0) continue
      const opacity = Math.round(clip.opacity * 65536) / 65536
      if (clip.kind === 'reel') {
        const layer = this.reelLayer(clip, tick, size, toOutput, opacity)
        if (layer) layers.push(layer)
        continue
      }
      const asset = this.project.assets[clip.assetId]
      if (!asset?.picture) continue
      const { width, height, alpha } = asset.picture
      layers.push({
        kind: 'picture',
        assetId: asset.id,
        time: holdInside(sourceTimeAt(clip, tick), asset),
        width,
        height,
        matrix: roundMatrix(multiply(toOutput, clipMatrix(clip, asset.picture, this.reel))),
        opacity,
        alpha,
      })
    }
    const visible = dropCovered(layers, size)
    const only = visible.length === 1 ? visible[0]! : null
    const passThrough =
      only?.kind === 'picture' &&
      !only.alpha &&
      only.opacity === 1 &&
      only.width === size.width &&
      only.height === size.height &&
      isIdentity(only.matrix)
    return { width: size.width, height: size.height, background: this.reel.background, layers: visible, passThrough }
  }

  /** A nested reel at its own size in this output, or `null` where it shows nothing. */
  private reelLayer(
    clip: ReelClip,
    tick: number,
    size: OutputSize,
    toOutput: Matrix,
    opacity: number,
  ): ReelLayer | null {
    const inner = this.project.reels[clip.nestedId]
    if (!inner) return null
    let planner = this.nested.get(inner.id)
    if (!planner) this.nested.set(inner.id, (planner = new FramePlanner(this.project, inner.id)))
    const { width, height } = inner.format
    const own = {
      width: Math.max(1, Math.round((width * size.width) / this.reel.format.width)),
      height: Math.max(1, Math.round((height * size.height) / this.reel.format.height)),
    }
    const plan = planner.plan(sourceTimeAt(clip, tick), own)
    if (plan.layers.length === 0) return null
    const placed = multiply(
      clipMatrix(clip, { width, height }, this.reel),
      scaling(width / own.width, height / own.height),
    )
    return {
      kind: 'reel',
      plan: { ...plan, background: null, passThrough: false },
      ...own,
      matrix: roundMatrix(multiply(toOutput, placed)),
      opacity,
      alpha: true,
    }
  }
}

/** Layers without those wholly behind an opaque layer that covers the output. */
function dropCovered(layers: LayerPlan[], size: OutputSize): LayerPlan[] {
  for (let i = layers.length - 1; i > 0; i--) {
    if (covers(layers[i]!, size)) return layers.slice(i)
  }
  return layers
}

function covers(layer: LayerPlan, size: OutputSize): boolean {
  const [a, b, c, d, e, f] = layer.matrix
  if (layer.alpha || layer.opacity < 1 || b !== 0 || c !== 0 || a <= 0 || d <= 0) return false
  // A hair of tolerance: rounding of the matrix must not let what lies behind be drawn for nothing.
  const hair = 1 / 1024
  return (
    e <= hair && f <= hair && e + a * layer.width >= size.width - hair && f + d * layer.height >= size.height - hair
  )
}

/** The frame of a reel at `tick`, drawn at `size`. For many frames of one document keep a {@link FramePlanner}. */
export function planFrame(project: Project, reelId: string, tick: number, size: OutputSize): FramePlan {
  return new FramePlanner(project, reelId).plan(tick, size)
}
