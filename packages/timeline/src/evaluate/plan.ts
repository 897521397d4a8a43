import type { BlendMode } from '../params/blendModes'
import type { Value } from '../params/animated'
import type { TitleMove, TitleRun } from '../document/title'
import type { MaskPlan } from './maskPlan'
import type { Matrix } from './matrix'

/** A shadow behind a layer; lengths in output pixels. */
export interface ShadowPlan {
  strength: number
  x: number
  y: number
  blur: number
  colour: string
}

/** What is done to a layer's outline; lengths in output pixels, sides as parts of the picture, 0 to 1. */
export interface FrameStylePlan {
  crop: { left: number; top: number; right: number; bottom: number }
  feather: number
  cornerRadius: number
  border: number
  borderColour: string
  shadow: ShadowPlan | null
  reflection: { strength: number; length: number; gap: number } | null
}

/** What is drawn behind a fitted picture where it leaves the frame empty. */
export type BackgroundFillPlan =
  | { kind: 'colour' | 'pattern'; colour: string }
  /** `matrix` lays the picture over the whole frame; it is blurred there. */
  | { kind: 'blur'; matrix: Matrix }

/** Effects on a picture, in their order, with their settings at this moment. */
export interface EffectsPlan {
  stack: {
    kind: string
    /** What differs from the effect's defaults. */
    settings: Record<string, Value>
    /** How much of it is mixed in, 0 to 1. */
    strength: number
    /** Where it acts; absent, everywhere. */
    mask?: MaskPlan
  }[]
  /** Output pixels per pixel of the reel: lengths in settings are multiplied by it. */
  scale: number
  /** The owner's time in seconds, for what moves by itself. */
  time: number
}

interface LayerBase {
  /** Size of the picture in its own pixels; a smaller proxy stands for the same size. */
  width: number
  height: number
  /** From the picture's pixels to output pixels. */
  matrix: Matrix
  /** 0 (unseen) to 1, rounded to 2⁻¹⁶. */
  opacity: number
  alpha: boolean
  /** Absent: normal. */
  blend?: Exclude<BlendMode, 'normal'>
  /** What is done to the layer's own picture before it is framed and laid down. */
  effects?: EffectsPlan
  frameStyle?: FrameStylePlan
  backgroundFill?: BackgroundFillPlan
  /** Where the layer is at moments while the shutterAngle is open, for motion blur; their pictures are averaged. */
  motionBlur?: Matrix[]
}

/** A picture of a source. */
export interface PictureLayer extends LayerBase {
  kind: 'picture'
  assetId: string
  /** Source time in ticks, inside the source; 0 for stills. */
  time: number
  /** A frame made between two of the source: which of the finer grid of `factor` frames for each of its own. */
  made?: { factor: number; index: number }
  /** Source times of frames around this one that its effects weigh, nearest first. */
  beside?: number[]
  /** Its clip plays backwards: the next frame is an earlier one. Says nothing about what is drawn. */
  reversed?: boolean
}

/** A nested reel, drawn by a plan of its own over nothing and then laid down as one picture. */
export interface ReelLayer extends LayerBase {
  kind: 'reel'
  plan: FramePlan
}

/** A move of a title's parts that is under way. */
export interface TitleMovePlan {
  phase: 'in' | 'out' | 'during'
  move: string
  unit: TitleMove['unit']
  order: TitleMove['order']
  overlap: number
  settings: Record<string, Value>
  /** 0 to 1; of a move while shown, the turns since the title began. */
  progress: number
}

/** Words, set within the reel's frame. */
export interface TitleLayer extends LayerBase {
  kind: 'title'
  text: string
  style: Record<string, Value>
  runs: { from: number; to: number; style: Record<string, Value> }[]
  moves: TitleMovePlan[]
  /** Of rolling and crawling words, how far they are, 0 to 1. */
  travel: number
}

/** A picture made by rule, as large as the reel's frame. */
export interface GeneratorLayer extends LayerBase {
  kind: 'generator'
  generator: string
  settings: Record<string, Value>
  /** Clip time in ticks, and the clip's length. */
  time: number
  length: number
}

/** Everything beneath, taken as one picture and laid down anew. */
export interface BackdropLayer extends LayerBase {
  kind: 'backdrop'
}

/** A layer with a place and a look. */
export type PlacedLayer = PictureLayer | ReelLayer | TitleLayer | GeneratorLayer | BackdropLayer

/** A change from one layer to another; `null` is nothing. */
export interface TransitionLayer {
  kind: 'transition'
  transition: string
  settings: Record<string, Value>
  /** 0 (all of `from`) to 1 (all of `to`), at the middle of the frame's time, before easing. */
  progress: number
  /** Progress that one frame lasts; what goes to a fullest point and back shows that on the frame in which it lies. */
  step?: number
  from: PlacedLayer | null
  to: PlacedLayer | null
}

/** One thing to draw. */
export type LayerPlan = PlacedLayer | TransitionLayer

/** Everything needed to draw one frame, as plain data: no reel position, no clip ids. Layers are back to front. */
export interface FramePlan {
  width: number
  height: number
  /** A colour, or `null` for none: a nested reel keeps its transparency. */
  background: string | null
  layers: LayerPlan[]
  /** What is done to all of it at the end. */
  effects?: EffectsPlan
  /** The only layer covers the output exactly and is untouched, so its decoded planes can be handed on as they are. */
  passThrough: boolean
}

/** Size in pixels of the picture to draw. */
export interface OutputSize {
  width: number
  height: number
}

/** A title's runs with plain values. */
export type PlannedRun = Omit<TitleRun, 'style'> & { style: Record<string, Value> }

/** A layer that holds no others. */
export type LeafLayer = Exclude<PlacedLayer, { kind: 'reel' }>

/** The layers that hold no others, those of nested reels and transitions included, in the order they are drawn. */
export function leavesOf(plan: FramePlan): LeafLayer[] {
  const within = (layer: LayerPlan | null): LeafLayer[] => {
    if (!layer) return []
    if (layer.kind === 'reel') return leavesOf(layer.plan)
    if (layer.kind === 'transition') return [...within(layer.from), ...within(layer.to)]
    return [layer]
  }
  return plan.layers.flatMap(within)
}

/**
 * Every picture a plan needs, those of nested reels and transitions included, in the order they are drawn; each is
 * followed by the frames around it that its effects weigh.
 */
export function pictureLayers(plan: FramePlan): PictureLayer[] {
  return leavesOf(plan).flatMap((layer) => {
    if (layer.kind !== 'picture') return []
    const { beside = [], ...own } = layer
    return [layer, ...beside.map((time) => ({ ...own, made: undefined, time }))]
  })
}

/** Every stack of effects of a plan, those of nested reels and transitions included. */
export function effectsOf(plan: FramePlan): EffectsPlan[] {
  const within = (layer: LayerPlan | null): EffectsPlan[] => {
    if (!layer) return []
    if (layer.kind === 'transition') return [...within(layer.from), ...within(layer.to)]
    return [...(layer.effects ? [layer.effects] : []), ...(layer.kind === 'reel' ? effectsOf(layer.plan) : [])]
  }
  return [...plan.layers.flatMap(within), ...(plan.effects ? [plan.effects] : [])]
}

/** A plan without its effects: what is compared with. */
export function withoutEffects(plan: FramePlan): FramePlan {
  const bare = <L extends LayerPlan | null>(layer: L): L => {
    if (!layer) return layer
    if (layer.kind === 'transition') return { ...layer, from: bare(layer.from), to: bare(layer.to) }
    const next: PlacedLayer = { ...layer }
    delete next.effects
    if (next.kind === 'reel') next.plan = withoutEffects(next.plan)
    return next as L
  }
  const { effects: _, ...rest } = plan
  return { ...rest, layers: plan.layers.map(bare) }
}

/** Hashes of the files that effects of a plan name. */
export function filesOf(plan: FramePlan): string[] {
  return effectsOf(plan).flatMap(({ stack }) =>
    stack.flatMap(({ settings: { file } }) => (typeof file === 'string' && file !== '' ? [file] : [])),
  )
}

/** Whether any layer of a plan is lettered or drawn by rule, at any depth: such plans need the vector painter. */
export function needsDrawing(plan: FramePlan): boolean {
  return leavesOf(plan).some((layer) => layer.kind === 'title' || layer.kind === 'generator')
}
