import { f } from '../helpers'
import { freshId, type Makers } from './sight'

/** Wishes about how clips look, sound and run: settings, titles, transitions, effects, speed. */
export const LOOK_WISHES = {
  addGenerated: ({ w, track, at }) =>
    track
      ? {
          type: 'addGenerated',
          mode: w.mode,
          generated: [
            {
              kind: 'title',
              clipId: freshId(),
              trackId: track.id,
              start: at,
              length: f(w.length),
              title: { text: 'Lantern night', style: { size: 80 }, runs: [], in: null, out: null, during: null },
            },
          ],
        }
      : null,
  setTitle: ({ w, clip }) =>
    clip ? { type: 'setTitle', clipIds: [clip.id], set: { text: 'Quay' }, style: { size: w.at + 1 } } : null,
  setGenerator: ({ w, clip }) =>
    clip && { type: 'setGenerator', clipIds: [clip.id], generator: w.flag ? 'sparks' : 'mist', set: {} },
  setParams: ({ w, clip }) =>
    clip
      ? {
          type: 'setParams',
          clipIds: [clip.id],
          set: {
            position: w.flag ? [w.at, 3] : { keys: [{ at: f(w.at), value: [w.at, 0], ease: 'both' }] },
            size: w.pick % 3 ? 40 : null,
          },
        }
      : null,
  setEach: ({ w, clip, other }) =>
    clip &&
    other && {
      type: 'setEach',
      clips: [clip, other].map(({ id }) => ({ clipId: id, set: { position: [w.at, w.other] }, fit: 'fill' })),
    },
  addTransitions: ({ w, clip, next }) => {
    if (!clip) return null
    const [leftId, rightId] = next ? [clip.id, next.id] : w.flag ? [clip.id, null] : [null, clip.id]
    const [before, after] = [leftId ? f(w.length % 40) : 0, rightId ? f(w.other % 40) : 0]
    return {
      type: 'addTransitions',
      transitions: [
        {
          id: freshId(),
          leftId,
          rightId,
          before,
          after,
          kind: 'dissolve',
          settings: {},
          missing: w.pick % 2 ? 'hold' : 'shorten',
        },
      ],
    }
  },
  setTransitions: ({ w, transitions }) =>
    transitions.length > 0
      ? {
          type: 'setTransitions',
          transitionIds: [transitions[w.pick % transitions.length]!],
          set: { before: f(w.length % 30), missing: w.flag ? 'hold' : 'shorten' },
        }
      : null,
  removeTransitions: ({ w, transitions }) =>
    transitions.length > 0
      ? { type: 'removeTransitions', transitionIds: [transitions[w.pick % transitions.length]!] }
      : null,
  addEffects: ({ w, reelId, clip, track }) => {
    const owner = (['clip', 'track', 'reel'] as const)[w.pick % 3]!
    const ownerId = owner === 'clip' ? clip?.id : owner === 'track' ? track?.id : reelId
    const effect = { domain: 'sound' as const, kind: 'echo', settings: { time: w.length }, strength: w.at % 101 }
    return ownerId ? { type: 'addEffects', owner, ownerIds: [ownerId], effects: [effect], replace: w.flag } : null
  },
  setEffects: ({ w, effects }) =>
    effects[0]
      ? {
          type: 'setEffects',
          effectIds: [effects[w.pick % effects.length]!],
          set: { on: w.flag, strength: w.at % 101 },
        }
      : null,
  moveEffect: ({ w, effects }) =>
    effects[0]
      ? { type: 'moveEffect', effectId: effects[w.pick % effects.length]!, after: w.flag ? null : effects[0] }
      : null,
  removeEffects: ({ w, effects }) =>
    effects[0] ? { type: 'removeEffects', effectIds: [effects[w.pick % effects.length]!] } : null,
  copySettings: ({ w, clip, other }) =>
    clip
      ? {
          type: 'copySettings',
          fromId: clip.id,
          to: w.flag || !other ? 'source' : [other.id],
          kinds: ['motion', 'look', 'sound'],
        }
      : null,
  setSpeed: ({ w, clip, scope }) =>
    clip
      ? {
          type: 'setSpeed',
          clipIds: [clip.id],
          ...(w.pick % 4 === 0
            ? { length: f(w.length) }
            : w.pick % 4 === 1
              ? { reverse: true }
              : { speed: (w.flag ? -1 : 1) * [0.25, 0.5, 1, 1.37, 2, 5][w.at % 6]! }),
          anchor: w.other % 5 === 0 ? 'end' : 'start',
          room: w.pick % 3 ? 'ripple' : 'keep',
          scope,
          linked: w.other % 4 > 0,
        }
      : null,
  setSpeedCurve: ({ w, clip, scope }) =>
    clip
      ? {
          type: 'setSpeedCurve',
          clipId: clip.id,
          points:
            w.pick % 5 === 0
              ? []
              : [0, w.length / 3, w.length].map((frames, i) => ({
                  at: clip.head + f(frames),
                  speed: [0.5, 2.2, 1][(w.at + i) % 3]!,
                  ease: (['linear', 'smooth', 'hold'] as const)[(w.other + i) % 3]!,
                })),
          room: w.flag ? 'keep' : 'ripple',
          scope,
        }
      : null,
  setPartSpeed: ({ w, clip, scope, at }) =>
    clip
      ? { type: 'setPartSpeed', clipId: clip.id, from: at, to: at + f(w.length), speed: w.flag ? 2 : 0.5, scope }
      : null,
  setGains: ({ w, clip }) => (clip ? { type: 'setGains', clips: [{ clipId: clip.id, gain: (w.at % 40) - 20 }] } : null),
  setClips: ({ w, clip }) => (clip ? { type: 'setClips', clipIds: [clip.id], set: { gain: -1 - (w.at % 60) } } : null),
} satisfies Partial<Makers>
