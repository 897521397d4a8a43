import {
  createProject,
  frameToTicks,
  nearestRate,
  CLIP_DEFAULTS,
  TICKS_PER_SECOND,
  ticksPerFrame,
  tracksOf,
  type Asset,
  type Clip,
  type Project,
  type Rate,
} from '@dusk/timeline'

/** How long a still shows when it is looked at, in ticks. */
const STILL = 5 * TICKS_PER_SECOND

/** A source as a reel of its own, so that it is watched with the same player and drawn by the same code as a reel. */
export interface SourceReel {
  project: Project
  reelId: string
  /** Ticks, whole frames. */
  length: number
  rate: Rate
}

/** A reel that plays a source from its first frame to its last, in its own shape and at its own rate. */
export function sourceReel(asset: Asset): SourceReel {
  const even = (n: number) => Math.min(8192, Math.max(16, Math.round(n / 2) * 2))
  const rate = asset.picture?.rate ? nearestRate(asset.picture.rate.num / asset.picture.rate.den) : { num: 30, den: 1 }
  const { width, height } = asset.picture ?? { width: 1280, height: 720 }
  let n = 0
  const newId = () => `${asset.id.slice(0, 24)}${(++n).toString(16).padStart(12, '0')}`
  const project = createProject(asset.name, { width: even(width), height: even(height), rate }, newId)
  const reelId = Object.keys(project.reels)[0]!
  const frames = Math.max(1, Math.ceil((asset.kind === 'still' ? STILL : asset.length) / ticksPerFrame(rate) - 1e-6))
  const length = frameToTicks(frames, rate)
  const base = { ...CLIP_DEFAULTS, params: {}, assetId: asset.id, start: 0, kind: 'media' as const }
  const map = { kind: 'constant' as const, source: 0, speed: 1 }
  const clips: Record<string, Clip> = {}
  const [picture] = tracksOf(project, reelId)
  const sound = tracksOf(project, reelId).find((track) => track.kind === 'sound')!
  if (asset.picture) {
    const id = newId()
    clips[id] = { ...base, id, trackId: picture!.id, stream: null, length, map }
  }
  if (asset.sounds.length > 0) {
    const id = newId()
    clips[id] = { ...base, id, trackId: sound.id, stream: 0, length: Math.ceil(length / 14_700) * 14_700, map }
  }
  return { project: { ...project, assets: { [asset.id]: asset }, clips }, reelId, length, rate }
}
