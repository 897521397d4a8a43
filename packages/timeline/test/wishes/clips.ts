import { clipEnd, type Piece } from '../../src/index'
import { CARD, f, HARBOUR, SONG } from '../helpers'
import { freshId, type Makers, type Sight } from './sight'

/** A command with one piece of the harbour, on whichever track is in sight. */
function harbourOn<C>({ w, track, at }: Sight, command: (pieces: Piece[]) => C): C | null {
  if (!track) return null
  const stream = track.kind === 'picture' ? null : 0
  const base = { assetId: HARBOUR, start: at, length: f(w.length), source: f(w.pick % 250), link: null }
  return command([{ ...base, clipId: freshId(), trackId: track.id, stream }])
}

/** Wishes about where clips lie and what part of their source they show. */
export const CLIP_WISHES = {
  place: ({ w, tracks, track, at }) => {
    if (!track) return null
    const picture = track.kind === 'picture'
    const assetId = picture ? [HARBOUR, CARD][w.pick % 2]! : [HARBOUR, SONG][w.pick % 2]!
    const link = w.flag ? freshId() : null
    const piece = { assetId, start: at, length: f(w.length), source: f(w.pick % 250), link }
    const pieces = [{ ...piece, clipId: freshId(), trackId: track.id, stream: picture ? null : 0 }]
    const partner = tracks.find((other) => other.kind !== track.kind)
    if (link && assetId === HARBOUR && partner)
      pieces.push({ ...piece, clipId: freshId(), trackId: partner.id, stream: picture ? 0 : null })
    return { type: 'place', pieces, mode: w.mode }
  },
  move: ({ w, project, clip, track, at }) => {
    if (!clip) return null
    const target = track && track.kind === project.tracks[clip.trackId]!.kind ? { [clip.id]: track.id } : {}
    return {
      type: 'move',
      clipIds: [clip.id],
      by: at - clip.start,
      tracks: target,
      mode: w.mode,
      linked: w.pick % 3 > 0,
    }
  },
  trim: ({ w, clip, scope, at }) => {
    if (!clip) return null
    const edge = w.flag ? 'start' : 'end'
    if (w.pick % 3 > 0) return { type: 'trim', clipId: clip.id, edge, to: at, linked: w.other % 3 > 0 }
    const to = (w.flag ? clip.start : clipEnd(clip)) + f(w.at % 60) - f(30)
    return { type: 'trim', clipId: clip.id, edge, to, mode: 'ripple', scope }
  },
  split: ({ w, reelId, clip, at }) => {
    if (w.flag) return { type: 'split', reelId, at, clipIds: null }
    return clip && { type: 'split', reelId, at: clip.start + Math.round(clip.length / 3), clipIds: [clip.id] }
  },
  remove: ({ w, clip, scope }) => (clip ? { type: 'remove', clipIds: [clip.id], closeUp: w.flag, scope } : null),
  closeGap: ({ track, scope, at }) => (track ? { type: 'closeGap', trackId: track.id, at, scope } : null),
  append: (sight) => harbourOn(sight, (pieces) => ({ type: 'append', pieces })),
  stackAbove: (sight) => harbourOn(sight, (pieces) => ({ type: 'stackAbove', pieces })),
  replace: ({ w, clip }) =>
    clip
      ? {
          ...{
            type: 'replace',
            clipId: clip.id,
            assetId: [HARBOUR, CARD, SONG][w.other % 3]!,
            source: f(w.at % 300),
          },
          short: (['shorten', 'slow', 'hold'] as const)[w.pick % 3]!,
        }
      : null,
  roll: ({ w, clip, next }) =>
    clip && next
      ? { type: 'roll', leftId: clip.id, rightId: next.id, to: Math.max(0, clipEnd(clip) + f(w.at % 40) - f(20)) }
      : null,
  slip: ({ w, clip }) => (clip ? { type: 'slip', clipIds: [clip.id], by: f(w.at % 90) - f(45), linked: w.flag } : null),
  slide: ({ w, clip }) => (clip ? { type: 'slide', clipId: clip.id, by: f(w.at % 40) - f(20), linked: w.flag } : null),
  join: ({ clip, next }) => (clip && next ? { type: 'join', leftId: clip.id, rightId: next.id } : null),
  freeze: ({ w, clip, scope }) =>
    clip
      ? { type: 'freeze', clipId: clip.id, at: clip.start + Math.round(clip.length / 2), length: f(w.length), scope }
      : null,
  record: ({ w, track, at }) =>
    track
      ? {
          ...{ type: 'record', clipId: freshId(), trackId: track.id, assetId: w.flag ? HARBOUR : SONG },
          ...{ start: at, length: f(w.length), source: f(w.pick % 250) },
        }
      : null,
  recut: ({ w, clip }) => {
    const part = { source: f(w.pick % 250), length: f(1 + (w.length % 40)) }
    const parts = [part, { source: f(w.other % 200), length: f(1 + (w.at % 30)) }]
    return clip ? { type: 'recut', clipIds: [clip.id], parts, crossfade: f(w.pick % 8), fadeOut: f(w.at % 5) } : null
  },
  addTake: ({ w, clip, at }) =>
    clip ? { type: 'addTake', clipId: clip.id, assetId: w.flag ? HARBOUR : SONG, at, source: 0 } : null,
  chooseTake: ({ w, clip }) => {
    const takes = (clip?.kind === 'media' && clip.takes) || []
    return clip && takes.length > 0
      ? { type: 'chooseTake', clipId: clip.id, assetId: takes[w.other % takes.length]!.assetId }
      : null
  },
  removeTake: ({ w, clip }) => {
    const takes = (clip?.kind === 'media' && clip.takes) || []
    return clip && takes.length > 0
      ? { type: 'removeTake', clipId: clip.id, assetId: takes[w.other % takes.length]!.assetId }
      : null
  },
  swap: ({ w, clip }) => (clip ? { type: 'swap', clipId: clip.id, with: w.flag ? 'next' : 'previous' } : null),
  cutOut: ({ w, reelId, track, scope, at }) => ({
    type: 'cutOut',
    reelId,
    from: at,
    to: at + f(w.length),
    closeUp: w.flag,
    scope,
    trackId: scope === 'track' ? (track?.id ?? null) : null,
  }),
  closeGaps: ({ track, scope }) => (track ? { type: 'closeGaps', trackId: track.id, scope } : null),
  reorder: ({ w, clip, other }) =>
    clip && other ? { type: 'reorder', clipId: clip.id, before: w.flag ? null : other.id } : null,
  duplicate: ({ w, clip }) => (clip ? { type: 'duplicate', clipIds: [clip.id], mode: w.mode } : null),
  paste: ({ w, clip, at }) => (clip ? { type: 'paste', clips: [clip], at, mode: w.mode } : null),
  link: ({ clip, other }) =>
    clip && other && clip.id !== other.id ? { type: 'link', clipIds: [clip.id, other.id] } : null,
  group: ({ clip, other }) =>
    clip && other && clip.id !== other.id ? { type: 'group', clipIds: [clip.id, other.id] } : null,
  unlink: ({ clip }) => (clip ? { type: 'unlink', clipIds: [clip.id] } : null),
  ungroup: ({ clip }) => (clip ? { type: 'ungroup', clipIds: [clip.id] } : null),
  resync: ({ clip }) => (clip ? { type: 'resync', clipIds: [clip.id] } : null),
  nest: ({ clip, other }) =>
    clip && other
      ? { type: 'nest', clipIds: [...new Set([clip.id, other.id])], reelId: freshId(), name: 'Inner' }
      : null,
  unnest: ({ clips }) => {
    const shell = clips.find((candidate) => candidate.kind === 'reel')
    return shell ? { type: 'unnest', clipId: shell.id } : null
  },
  setLengths: ({ w, clip, other, scope }) =>
    clip &&
    other && {
      ...{ type: 'setLengths', clipIds: [...new Set([clip.id, other.id])], length: f(w.length) },
      ...{ mode: w.flag ? 'ripple' : 'plain', scope, linked: w.pick % 3 > 0 },
    },
} satisfies Partial<Makers>
