import { clipEnd, reelLength, trackClips, tracksOf } from '../document/query'
import type { Clip } from '../document/clip'
import type { Effect } from '../document/effect'
import { compareOrder } from '../document/order'
import type { Project } from '../document/project'
import type { Track } from '../document/track'
import { SOUND_FADES, type SoundFade, type Transition } from '../document/transition'
import { isAnimated, type Animated } from '../params/animated'
import type { ChannelChoice, PitchChoice, StretchChoice } from '../params/soundParams'
import type { Params } from '../params/spec'
import { TICKS_PER_SAMPLE } from '../time/ticks'
import type {
  SoundChannelPlan,
  SoundEffectPlan,
  SoundFadePlan,
  SoundPiece,
  SoundPlan,
  SoundTimePlan,
} from './soundPlan'
import { sourceTimeAt, speedAt } from './timeMap'

/** Speeds beyond which a sound is silent unless the person wants to hear it all the same. */
export const HEARD_SPEEDS = { min: 0.25, max: 4 } as const

/** Gain at and below which something is silent. */
const SILENT = -96

const samples = (ticks: number) => Math.round(ticks / TICKS_PER_SAMPLE)

/**
 * What is heard from `from` to `to` (ticks). A solo on any sound track silences those without; muted tracks are silent.
 * @throws {RangeError} when the project has no such reel
 */
export function planSound(project: Project, reelId: string, from: number, to: number): SoundPlan {
  return new SoundPlanner(project).plan(reelId, samples(from), samples(to))
}

/** The transitions at a clip's start and end. */
interface Changes {
  in?: Transition
  out?: Transition
}

class SoundPlanner {
  private readonly changes = new Map<string, Changes>()
  private readonly effects = new Map<string, Effect[]>()
  private readonly nested = new Map<string, SoundPlan>()

  constructor(private readonly project: Project) {
    for (const transition of Object.values(project.transitions)) {
      const { leftId, rightId } = transition
      if (leftId) this.changes.set(leftId, { ...this.changes.get(leftId), out: transition })
      if (rightId) this.changes.set(rightId, { ...this.changes.get(rightId), in: transition })
    }
    for (const effect of Object.values(project.effects)) {
      if (effect.domain !== 'sound' || !effect.on || effect.strength === 0) continue
      this.effects.set(effect.ownerId, [...(this.effects.get(effect.ownerId) ?? []), effect])
    }
    for (const stack of this.effects.values()) stack.sort(compareOrder)
  }

  /** @param first first sample of the reel, `last` the one after the end */
  plan(reelId: string, first: number, last: number): SoundPlan {
    const reel = this.project.reels[reelId]
    if (!reel) throw new RangeError(`The project has no reel ${reelId}.`)
    const all = tracksOf(this.project, reelId).filter((track) => track.kind === 'sound')
    const soloed = all.some((track) => track.solo)
    const heard = all.filter((track) => !track.muted && (!soloed || track.solo) && track.gain > SILENT)
    const byTrack = trackClips(this.project)
    const pieces: SoundPiece[] = []
    for (const [index, track] of heard.entries()) {
      const clips = byTrack.get(track.id) ?? []
      for (const [i, clip] of clips.entries()) {
        const piece = this.piece(track, clip, clips[i - 1], clips[i + 1])
        if (!piece || piece.at + piece.length <= first || piece.at >= last) continue
        pieces.push({ ...piece, track: index, at: piece.at - first })
      }
    }
    return {
      length: Math.max(last - first, 0),
      start: first * TICKS_PER_SAMPLE,
      tracks: heard.map((track) => ({ id: track.id, purpose: track.purpose, ...this.channel(track) })),
      pieces,
      reel: this.channel(reel),
    }
  }

  /** A nested reel as a whole. */
  private whole(reelId: string): SoundPlan {
    let found = this.nested.get(reelId)
    if (!found) {
      found = this.plan(reelId, 0, Math.ceil(reelLength(this.project, reelId) / TICKS_PER_SAMPLE))
      this.nested.set(reelId, found)
    }
    return found
  }

  /** A clip in the mix, placed by samples of the reel; `null` where nothing of it is heard. */
  private piece(track: Track, clip: Clip, before: Clip | undefined, after: Clip | undefined): SoundPiece | null {
    if (clip.stream === null || clip.map.kind === 'freeze' || clip.gain <= SILENT) return null
    const time = timePlan(clip, track)
    if (time === 'silent') return null
    const edges = this.changes.get(clip.id)
    // A crossfade plays footage hidden beyond the trims.
    const start = samples(clip.start - (edges?.in?.before ?? 0))
    const end = samples(clipEnd(clip) + (edges?.out?.after ?? 0))
    const common = {
      track: 0,
      at: start,
      length: end - start,
      from: samples(sourceTimeAt(clip, start * TICKS_PER_SAMPLE)),
      clock: clip.head + start * TICKS_PER_SAMPLE - clip.start,
      ...this.channel(clip),
      ...channelFacts(clip.params),
      ...(time ? { time } : {}),
      ...(edges ? { fades: fadePlans(clip, edges, start) } : {}),
    }
    const abrupt = {
      start: !edges?.in && !(before && goesOn(before, clip)),
      end: !edges?.out && !(after && goesOn(clip, after)),
    }
    if (abrupt.start || abrupt.end) Object.assign(common, { abrupt })
    if (clip.kind === 'media') {
      if (!this.project.assets[clip.assetId]?.sounds[clip.stream]) return null
      return { assetId: clip.assetId, stream: clip.stream, ...common }
    }
    if (clip.kind !== 'reel' || !this.project.reels[clip.nestedId]) return null
    return { assetId: clip.nestedId, stream: 0, nested: this.whole(clip.nestedId), ...common }
  }

  private channel({ id, gain, params }: { id: string; gain: number; params: Params }): SoundChannelPlan {
    const effects = this.effects.get(id)
    return {
      gain,
      ...(isSet(params.level) ? { level: params.level as Animated<number> } : {}),
      ...(isSet(params.pan) ? { pan: params.pan as Animated<number> } : {}),
      ...(effects ? { effects: effects.map(effectPlan) } : {}),
    }
  }
}

const isSet = (value: Animated | undefined): boolean => value !== undefined && (isAnimated(value) || value !== 0)

const effectPlan = ({ id, kind, settings, strength }: Effect): SoundEffectPlan => ({ id, kind, settings, strength })

/** Whether the sound of one clip simply goes on in the next, as the halves of a split do. */
function goesOn(left: Clip, right: Clip): boolean {
  if (clipEnd(left) !== right.start || left.stream !== right.stream || left.gain !== right.gain) return false
  if (left.kind !== right.kind || left.map.kind === 'freeze' || right.map.kind === 'freeze') return false
  if (left.kind === 'media' && right.kind === 'media' && left.assetId !== right.assetId) return false
  if (left.kind === 'reel' && right.kind === 'reel' && left.nestedId !== right.nestedId) return false
  const cut = right.start
  const same = Math.abs(sourceTimeAt(left, cut) - sourceTimeAt(right, cut)) < TICKS_PER_SAMPLE
  return same && speedAt(left.map, left.head + left.length) === speedAt(right.map, right.head)
}

/** Whether a clip is not heard because it runs, somewhere, too slowly or too fast to be worth hearing. */
export function silencedBySpeed({ map, params }: Pick<Clip, 'map' | 'params'>): boolean {
  if (params.anySpeed || map.kind === 'freeze') return false
  const speeds = map.kind === 'constant' ? [Math.abs(map.speed)] : map.points.map((point) => point.speed)
  return speeds.some((speed) => speed < HEARD_SPEEDS.min || speed > HEARD_SPEEDS.max)
}

/** How a clip is stretched; `undefined` where it runs at its own speed, `silent` where it is not heard. */
function timePlan(clip: Clip, track: Track): SoundTimePlan | 'silent' | undefined {
  const { map, params } = clip
  if (map.kind === 'freeze') return 'silent'
  const shift = typeof params.pitch === 'number' ? params.pitch : 0
  const plain = map.kind === 'constant' && map.speed === 1
  if (plain && shift === 0) return undefined
  const mode = (params.pitchMode ?? 'keep') as PitchChoice
  if (!plain && mode === 'silent') return 'silent'
  if (silencedBySpeed(clip)) return 'silent'
  const wanted = (params.stretcher ?? 'auto') as StretchChoice
  const engine = wanted === 'auto' ? (track.purpose === 'music' ? 'music' : 'speech') : wanted
  return { map, pitch: plain ? 'keep' : mode === 'follow' ? 'follow' : 'keep', shift, engine }
}

/** Which channels go where. */
function channelFacts(params: Params): Pick<SoundPiece, 'channels' | 'sides'> {
  const { channels, leftLevel = 0, rightLevel = 0 } = params
  return {
    ...(channels && channels !== 'asIs' ? { channels: channels as ChannelChoice } : {}),
    ...(isSet(leftLevel) || isSet(rightLevel)
      ? { sides: [leftLevel as Animated<number>, rightLevel as Animated<number>] as const }
      : {}),
  }
}

const fadeShape = (transition: Transition): SoundFade =>
  SOUND_FADES.find((shape) => shape === transition.kind) ?? 'equalPower'

/** Fades of a clip whose piece begins at sample `start` of the reel. */
function fadePlans(clip: Clip, edges: Changes, start: number): SoundFadePlan[] {
  const fades: SoundFadePlan[] = []
  const plan = (transition: Transition, cut: number, direction: 'in' | 'out') => {
    const from = samples(cut - transition.before)
    const to = samples(cut + transition.after)
    fades.push({ from: from - start, length: to - from, shape: fadeShape(transition), direction })
  }
  if (edges.in) plan(edges.in, clip.start, 'in')
  if (edges.out) plan(edges.out, clipEnd(clip), 'out')
  return fades
}
