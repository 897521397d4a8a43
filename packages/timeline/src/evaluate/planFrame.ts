import { bisector } from 'd3-array'
import type { Asset } from '../document/asset'
import type { Clip, ReelClip, TitleClip, MediaClip } from '../document/clip'
import type { Effect } from '../document/effect'
import { compareOrder } from '../document/order'
import { clipEnd, trackClips, tracksOf } from '../document/query'
import type { Project } from '../document/project'
import type { Reel } from '../document/reel'
import type { Track } from '../document/track'
import { cutOf, type Transition } from '../document/transition'
import { ticksPerFrame, TICKS_PER_SECOND } from '../time/ticks'
import { frameStylePlan, fillingPlan, lookAt, placeMatrix, smearPlan, trackMatrix } from './layerPlan'
import { madeAt, madeFactor, type MadeFrames } from './madeFrames'
import { framesAround } from '../params/framesAround'
import { maskPlan } from './maskPlan'
import { IDENTITY, multiply, roundMatrix, scaling, type Matrix } from './matrix'
import type { EffectsPlan, FramePlan, LayerPlan, OutputSize, PictureLayer, PlacedLayer, TitleLayer } from './plan'
import { generatorFacts, grain, settingsAt, titleFacts } from './settingsAt'
import { isBackwards, pictureTimeAt } from './timeMap'
import { trackGroup } from './trackGroup'

/** Keeps a source time inside the source: before and after it the edge frame is held. */
export function holdInside(time: number, asset: Asset): number {
  if (asset.kind === 'still') return 0
  return Math.min(Math.max(time, 0), Math.max(asset.length - 1, 0))
}

function isScaling(m: Matrix, scale: number): boolean {
  return scaling(scale, scale).every((value, i) => value === m[i])
}

/** Most frames to each side that effects weigh. */
const MOST_BESIDE = 3

/** Something that owns effects, and its own time. */
type EffectsOf = readonly [id: string, time: number]

/** What a clip draws, the size it stands for, and where it plays a source, that and its time. */
interface OwnPicture {
  shown: OutputSize
  layer: { kind: PlacedLayer['kind']; width: number; height: number; alpha: boolean; [fact: string]: unknown }
  source?: readonly EffectsOf[]
}

interface Lane {
  track: Track
  clips: readonly Clip[]
  /** Transitions by the tick they begin at, in order, with their ends. */
  transitions: { from: number; to: number; transition: Transition }[]
}

/**
 * A planner for many frames of one document: tracks and clips are sorted once, a frame then costs a search per track.
 */
export class FramePlanner {
  private readonly lanes: Lane[]
  private readonly reel: Reel
  private readonly nested = new Map<string, FramePlanner>()
  /** Picture effects that are on, by their owner, in order. */
  private readonly effects = new Map<string, Effect[]>()

  /** @param made which frames that are made between those of sources are there */
  constructor(
    private readonly project: Project,
    reelId: string,
    private readonly made: MadeFrames = () => false,
  ) {
    const reel = project.reels[reelId]
    if (!reel) throw new RangeError(`The project has no reel ${reelId}.`)
    this.reel = reel
    for (const effect of Object.values(project.effects)) {
      if (effect.domain !== 'picture' || !effect.on || effect.strength === 0) continue
      const stack = this.effects.get(effect.ownerId)
      if (stack) stack.push(effect)
      else this.effects.set(effect.ownerId, [effect])
    }
    for (const stack of this.effects.values()) stack.sort(compareOrder)
    const byTrack = trackClips(project)
    const byLane = new Map<string, Transition[]>()
    for (const transition of Object.values(project.transitions)) {
      const lane = byLane.get(transition.trackId)
      if (lane) lane.push(transition)
      else byLane.set(transition.trackId, [transition])
    }
    this.lanes = tracksOf(project, reelId)
      .filter((track) => track.kind === 'picture' && !track.hidden)
      .map((track) => ({
        track,
        clips: byTrack.get(track.id) ?? [],
        transitions: (byLane.get(track.id) ?? [])
          .map((transition) => {
            const cut = cutOf(transition, (id) => project.clips[id]) ?? 0
            return { from: cut - transition.before, to: cut + transition.after, transition }
          })
          .sort((a, b) => a.from - b.from),
      }))
  }

  /** Picture clips showing at `tick`, back to front. Where one changes into another, both. */
  clipsAt(tick: number): Clip[] {
    return this.lanes.flatMap((lane) => {
      const changing = transitionAt(lane, tick)
      if (!changing) return clipAt(lane, tick) ?? []
      const { leftId, rightId } = changing.transition
      return [leftId, rightId].flatMap((id) => (id ? (this.project.clips[id] ?? []) : []))
    })
  }

  /** The frame at `tick`, drawn at `size`. */
  plan(tick: number, size: OutputSize): FramePlan {
    const layers = this.lanes.flatMap((lane) => this.laneLayers(lane, tick, size))
    const visible = dropCovered(layers, size)
    const effects = this.effectsPlan([[this.reel.id, tick]], size.width / this.reel.format.width, tick)
    const plan: FramePlan = {
      ...{ width: size.width, height: size.height, background: this.reel.background, layers: visible },
      ...(effects ? { effects } : {}),
      passThrough: false,
    }
    return { ...plan, passThrough: untouched(plan, 1) !== null }
  }

  /** What a track shows: the layers of a nested reel that is looked through, or one layer. */
  private laneLayers(lane: Lane, tick: number, size: OutputSize): LayerPlan[] {
    const clip = transitionAt(lane, tick) ? null : clipAt(lane, tick)
    const inner = clip?.kind === 'reel' ? this.lookedThrough(clip, lane.track) : null
    if (inner) return inner.plan(pictureTimeAt(clip!, tick), size).layers
    const layer = this.laneLayer(lane, tick, size)
    return layer ? [layer] : []
  }

  /** The planner of a nested reel whose clips are laid down one by one; `null` where it is one picture. */
  private lookedThrough(clip: ReelClip, track: Track): FramePlanner | null {
    const inner = this.project.reels[clip.nestedId]
    const plain = (params: object) => Object.keys(params).length === 0
    if (!clip.through || !inner || !plain(clip.params) || !plain(track.params)) return null
    if ([clip.id, track.id, inner.id].some((id) => this.effects.has(id))) return null
    const { width, height } = inner.format
    if (width !== this.reel.format.width || height !== this.reel.format.height) return null
    return this.plannerOf(inner)
  }

  private plannerOf(inner: Reel): FramePlanner {
    let planner = this.nested.get(inner.id)
    if (!planner) this.nested.set(inner.id, (planner = new FramePlanner(this.project, inner.id, this.made)))
    return planner
  }

  /** What a track shows as one layer: one clip, or one changing into another; with the track's effects, one picture. */
  private laneLayer(lane: Lane, tick: number, size: OutputSize): LayerPlan | null {
    const whole = this.effectsPlan([[lane.track.id, tick]], size.width / this.reel.format.width, tick)
    const layer = this.shownOn(lane, tick, size, [])
    if (!whole || !layer) return layer
    return trackGroup(layer, whole, size) ?? this.shownOn(lane, tick, size, [[lane.track.id, tick]])
  }

  /** @param more owners whose effects each clip has after its own */
  private shownOn(lane: Lane, tick: number, size: OutputSize, more: readonly EffectsOf[]): LayerPlan | null {
    const changing = transitionAt(lane, tick)
    if (changing) return this.transitionLayer(lane, changing, tick, size, more)
    const clip = clipAt(lane, tick)
    const layer = clip && this.clipLayer(clip, lane.track, tick, size, more)
    return layer && this.betweenFrames(clip, layer)
  }

  private transitionLayer(
    lane: Lane,
    changing: Lane['transitions'][number],
    tick: number,
    size: OutputSize,
    more: readonly EffectsOf[],
  ): LayerPlan | null {
    const { transition, from, to } = changing
    const side = (id: string | null) => {
      const clip = id ? this.project.clips[id] : null
      const layer = clip && this.clipLayer(clip, lane.track, tick, size, more)
      return clip && layer ? this.madeFrame(clip, layer) : null
    }
    const [left, right] = [side(transition.leftId), side(transition.rightId)]
    if (!left && !right) return null
    // The middle of the frame's time: the first and the last frame are alike far from the ends.
    const step = ticksPerFrame(this.reel.format.rate) / (to - from)
    const progress = (tick - from) / (to - from) + step / 2
    return {
      kind: 'transition',
      transition: transition.kind,
      settings: settingsAt(transition.settings, tick - from),
      progress: grain(Math.min(Math.max(progress, 0), 1)),
      step: grain(step),
      from: left,
      to: right,
    }
  }

  /** The frame of a slowed clip that was made between two of its source's, where there is one. */
  private madeFrame(clip: Clip, layer: PlacedLayer): PlacedLayer {
    if (layer.kind !== 'picture') return layer
    const factor = madeFactor(this.project, clip)
    if (factor === null) return layer
    const period = ticksPerFrame(this.project.assets[layer.assetId]!.picture!.rate!)
    const index = Math.floor((layer.time * factor) / period + 1e-9)
    // On a frame of the source that frame itself is shown.
    if (index % factor === 0) return layer
    const { segment } = madeAt(factor, index)
    return this.made({ assetId: layer.assetId, factor, segment }) ? { ...layer, made: { factor, index } } : layer
  }

  /**
   * A slowed clip between two frames: one that was made, or both of them, mixed by how far it is from the one to the
   * next. Until frames that are wanted are there, they are mixed too.
   */
  private betweenFrames(clip: Clip, layer: PlacedLayer): LayerPlan {
    if (clip.kind !== 'media' || layer.kind !== 'picture') return layer
    const { slowMotion } = clip.params
    if (slowMotion !== 'blend' && slowMotion !== 'made') return layer
    const made = this.madeFrame(clip, layer)
    if (made !== layer) return made
    const asset = this.project.assets[clip.assetId]
    const rate = asset?.picture?.rate
    if (!rate || asset.kind === 'still') return layer
    const period = ticksPerFrame(rate)
    const frame = Math.floor(layer.time / period + 1e-9)
    const next = holdInside(Math.round((frame + 1.5) * period), asset)
    const progress = grain(Math.min(Math.max(layer.time / period - frame, 0), 1))
    const factor = slowMotion === 'made' ? madeFactor(this.project, clip) : null
    // Fast enough as it is: there is nothing between its frames that would be seen.
    if (slowMotion === 'made' && factor === null && !asset.picture!.variable) return layer
    // Made frames lie on their own grid: what is shown between two of those is the earlier one.
    if (factor !== null && Math.floor(progress * factor + 1e-6) === 0) return layer
    if (progress === 0 || next <= layer.time) return layer
    const settings = { ease: 'linear' }
    return { kind: 'transition', transition: 'dissolve', settings, progress, from: layer, to: { ...layer, time: next } }
  }

  /** One clip at `tick`, which may lie beyond its trims; `null` where it shows nothing. */
  private clipLayer(
    clip: Clip,
    track: Track,
    tick: number,
    size: OutputSize,
    more: readonly EffectsOf[],
  ): PlacedLayer | null {
    const { format } = this.reel
    const clipTime = clip.head + tick - clip.start
    const look = lookAt(clip, clipTime)
    const whole = trackMatrix(track.params, tick, format)
    const opacity = grain((look.opacity / 100) * (whole?.opacity ?? 1))
    if (opacity <= 0) return null
    const scale = size.width / format.width
    const toOutput = scaling(scale, size.height / format.height)
    const own = this.pictureOf(clip, tick, size)
    if (!own) return null
    const { width, height } = own.shown
    const placeAt = (offset: number) => {
      const at = offset === 0 ? look : lookAt(clip, clipTime + offset)
      const placed = placeMatrix(
        at,
        clip.kind === 'media' || clip.kind === 'reel' ? (clip.fit ?? this.reel.fit) : 'stretch',
        own.shown,
        format,
      )
      const moved = offset === 0 ? whole : trackMatrix(track.params, tick + offset, format)
      const reel = moved ? multiply(moved.matrix, placed) : placed
      return multiply(multiply(toOutput, reel), scaling(width / own.layer.width, height / own.layer.height))
    }
    const effects = this.effectsPlan([...(own.source ?? []), [clip.id, clipTime], ...more], scale, clipTime)
    const frameStyle = frameStylePlan(look, scale)
    const backgroundFill = fillingPlan(clip, look, own.shown, this.reel, toOutput)
    const motionBlur = smearPlan(look, ticksPerFrame(format.rate), placeAt)
    const beside = clip.kind === 'media' && effects ? this.framesBeside(clip, own.layer.time as number, effects) : []
    return {
      ...own.layer,
      matrix: roundMatrix(placeAt(0)),
      opacity,
      ...(beside.length > 0 ? { beside } : {}),
      ...(look.blend === 'normal' ? {} : { blend: look.blend }),
      ...(effects ? { effects } : {}),
      ...(frameStyle ? { frameStyle } : {}),
      ...(backgroundFill ? { backgroundFill } : {}),
      ...(motionBlur ? { motionBlur } : {}),
    } as PlacedLayer
  }

  /**
   * Picture effects of owners, one after the other, each at a time of its own; `undefined` where there are none.
   * @param clock ticks by which goes what moves by itself
   */
  private effectsPlan(owners: readonly EffectsOf[], scale: number, clock: number): EffectsPlan | undefined {
    const stack = owners.flatMap(([id, time]) =>
      (this.effects.get(id) ?? []).map(({ kind, settings, strength, mask }) => ({
        ...{ kind, settings: settingsAt(settings, time) },
        strength: grain(strength / 100),
        ...(mask ? { mask: maskPlan(mask, time) } : {}),
      })),
    )
    return stack.length > 0 ? { stack, scale: grain(scale), time: grain(clock / TICKS_PER_SECOND) } : undefined
  }

  /** Source times of the frames around one that effects weigh: as many to each side as the one that wants most. */
  private framesBeside(clip: MediaClip, time: number, { stack }: EffectsPlan): number[] {
    const asset = this.project.assets[clip.assetId]
    const rate = asset?.picture?.rate
    const reach = Math.max(0, ...stack.map(({ kind, settings }) => framesAround(kind, settings)))
    if (!asset || !rate || asset.kind === 'still') return []
    const period = ticksPerFrame(rate)
    const frame = Math.floor(time / period + 1e-9)
    const times: number[] = []
    for (let n = 1; n <= Math.min(MOST_BESIDE, Math.round(reach)); n++)
      for (const side of [-n, n]) {
        const at = Math.round((frame + side + 0.5) * period)
        // Before the first frame and after the last there is none.
        if (at >= 0 && at < asset.length) times.push(at)
      }
    return times
  }

  /** What a clip draws before it is placed: the layer's own facts, and the size in reel terms that it stands for. */
  private pictureOf(clip: Clip, tick: number, size: OutputSize): OwnPicture | null {
    const { format } = this.reel
    const frame = { width: format.width, height: format.height }
    switch (clip.kind) {
      case 'media': {
        const asset = this.project.assets[clip.assetId]
        if (!asset?.picture) return null
        const { width, height, alpha } = asset.picture
        const time = holdInside(pictureTimeAt(clip, tick), asset)
        const way = isBackwards(clip.map) ? { reversed: true } : {}
        return {
          shown: { width, height },
          source: [[asset.id, time]],
          layer: { kind: 'picture', assetId: asset.id, time, width, height, alpha, ...way },
        }
      }
      case 'reel':
        return this.nestedPicture(clip, tick, size)
      case 'title':
        return { shown: frame, layer: { ...titleFacts(clip, tick), ...frame, alpha: true } }
      case 'generator':
        return { shown: frame, layer: { ...generatorFacts(clip, tick), ...frame, alpha: true } }
      case 'adjustment':
        return { shown: frame, layer: { kind: 'backdrop', ...size, alpha: true } }
    }
  }

  /** A nested reel at its own size in this output, or `null` where it shows nothing. */
  private nestedPicture(clip: ReelClip, tick: number, size: OutputSize): OwnPicture | null {
    const inner = this.project.reels[clip.nestedId]
    if (!inner) return null
    const planner = this.plannerOf(inner)
    const { width, height } = inner.format
    const own = {
      width: Math.max(1, Math.round((width * size.width) / this.reel.format.width)),
      height: Math.max(1, Math.round((height * size.height) / this.reel.format.height)),
    }
    const plan = planner.plan(pictureTimeAt(clip, tick), own)
    if (plan.layers.length === 0) return null
    return {
      shown: { width, height },
      layer: { kind: 'reel', plan: { ...plan, background: null, passThrough: false }, ...own, alpha: true },
    }
  }
}

const byStart = bisector((clip: Clip) => clip.start).right
const byFrom = bisector((transition: Lane['transitions'][number]) => transition.from).right

/** The clip showing on a lane at `tick`. */
function clipAt({ clips }: Lane, tick: number): Clip | null {
  const clip = clips[byStart(clips, tick) - 1]
  return clip && tick < clipEnd(clip) ? clip : null
}

function transitionAt({ transitions }: Lane, tick: number): Lane['transitions'][number] | null {
  const found = transitions[byFrom(transitions, tick) - 1]
  return found && tick < found.to ? found : null
}

/** Layers without those wholly behind an opaque layer that covers the output. */
function dropCovered(layers: LayerPlan[], size: OutputSize): LayerPlan[] {
  for (let i = layers.length - 1; i > 0; i--) {
    if (covers(layers[i]!, size)) return layers.slice(i)
  }
  return layers
}

/** The only layer of a plan, where it is a picture that fills the output at a scale and nothing else is done to it. */
function untouched({ width, height, layers: [only, second], effects }: FramePlan, scale: number): PictureLayer | null {
  if (effects || second || only?.kind !== 'picture' || only.alpha || only.opacity !== 1 || !isPlain(only)) return null
  const fills = only.width * scale === width && only.height * scale === height
  return fills && isScaling(only.matrix, scale) ? only : null
}

/**
 * The layer of a plan that shows nothing but a picture at half its size, untouched: its decoded planes can be brought
 * down as they are. `null` for any other plan.
 */
export function halvedLayer(plan: FramePlan): PictureLayer | null {
  return untouched(plan, 0.5)
}

/** Nothing is done to the layer beyond placing it. */
function isPlain(layer: PlacedLayer): boolean {
  return !layer.blend && !layer.effects && !layer.frameStyle && !layer.backgroundFill && !layer.motionBlur
}

/** Whether a layer hides all that is behind it. */
export function covers(layer: LayerPlan, size: OutputSize): boolean {
  if (layer.kind === 'transition' || !isPlain(layer)) return false
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

/** A title clip's words and look at a moment, in the reel's frame, with no place given to it. */
export function titleLayer(clip: TitleClip, tick: number, format: { width: number; height: number }): TitleLayer {
  const { width, height } = format
  return { ...titleFacts(clip, tick), width, height, matrix: IDENTITY, opacity: 1, alpha: true } as TitleLayer
}
