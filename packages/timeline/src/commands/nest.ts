import { z } from 'zod'
import { CLIP_DEFAULTS, type Clip } from '../document/clip'
import { createReel, createTrack } from '../document/create'
import { compareOrder, orderBetween } from '../document/order'
import { clipEnd } from '../document/query'
import type { Mask } from '../document/mask'
import type { Track } from '../document/track'
import { idSchema, nameSchema } from '../document/values'
import { copyEffects } from '../edit/carry'
import type { Edit } from '../edit/edit'
import { dropLoneLinks, grainOf, linkedClips, openTrack, sliceClip, quantise } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { sourceTimeAt } from '../evaluate/timeMap'
import { shiftKeys } from '../params/shiftKeys'
import { count, defineCommand } from './define'
import { copyTransitions } from './duplicate'

/** Tracks in the order they lie on the desk's kind: pictures back to front, sounds top to bottom. */
function inOrder(edit: Edit, ids: Iterable<string>): Track[] {
  return [...new Set(ids)].map((id) => edit.need('tracks', id)).sort(compareOrder)
}

/** Makes a reel of clips; in their place stays one clip that plays it, with its mix beside when there was sound. */
export const nest = defineCommand({
  schema: z.object({
    type: z.literal('nest'),
    clipIds: z.array(idSchema).min(1).max(5000),
    /** Id and name of the new reel. */
    reelId: idSchema,
    name: nameSchema,
  }),
  apply(edit, { clipIds, reelId, name }) {
    if (edit.get('reels', reelId)) refuse('id', 'That reel is already there.', [reelId])
    const clips = linkedClips(edit, clipIds)
    const tracks = inOrder(
      edit,
      clips.map((clip) => clip.trackId),
    )
    const parent = edit.need('reels', tracks[0]!.reelId)
    if (tracks.some((track) => track.reelId !== parent.id)) refuse('link', 'These clips are not all in one reel.')
    const grid = tracks.find((track) => track.kind === 'picture') ?? tracks[0]!
    // The new reel begins on the grid of its first picture, so that every picture keeps its frames.
    const grain = grainOf(edit, grid)
    const begin = Math.round(Math.floor(Math.min(...clips.map((clip) => clip.start)) / grain + 1e-6) * grain)
    const end = Math.round(Math.ceil(Math.max(...clips.map(clipEnd)) / grain - 1e-6) * grain)
    const reels = [...edit.all('reels')].sort(compareOrder)
    edit.put('reels', {
      ...createReel(name, parent.format, orderBetween(reels.at(-1)!.order, null), () => reelId),
      fit: parent.fit,
      backgroundFill: parent.backgroundFill,
    })
    const inner = new Map<string, Track>()
    let order: string | null = null
    for (const track of tracks) {
      order = orderBetween(order, null)
      const made = createTrack(reelId, track.kind, track.purpose, track.name, order, () => edit.newId())
      inner.set(track.id, made)
      // What is done to all of a picture track goes along; its keyframes are in the time of the reel.
      const seen = track.kind === 'picture'
      const own = seen ? { hidden: track.hidden, params: shiftKeys(track.params, -begin) } : {}
      edit.put('tracks', { ...made, ...own, gain: 0 })
      if (seen) moveEffects(edit, track.id, made.id, -begin)
    }
    for (const clip of clips) {
      const home = inner.get(clip.trackId)!
      edit.put('clips', { ...clip, trackId: home.id, start: quantise(edit, home, clip.start - begin) })
    }
    const front = tracks.filter((track) => track.kind === 'picture').at(-1)
    const sound = tracks.find((track) => track.kind === 'sound')
    const link = front && sound ? edit.newId() : null
    for (const [home, stream] of [
      [front, null],
      [sound, 0],
    ] as const) {
      if (!home) continue
      // On a track that does something itself it would be done twice.
      const track = stream === null && !isPlain(edit, home) ? trackInFront(edit, home) : home
      const [start, stop] = [quantise(edit, track, begin), quantise(edit, track, end)]
      edit.put('clips', {
        ...CLIP_DEFAULTS,
        params: {},
        kind: 'reel',
        nestedId: reelId,
        ...(stream === null ? { through: true } : {}),
        id: edit.newId(),
        trackId: track.id,
        stream,
        start,
        length: Math.max(stop - start, 1),
        map: { kind: 'constant', source: 0, speed: 1 },
        link,
      })
    }
  },
  describe: ({ clipIds, name }) => `Made the reel ${name} of ${count(clipIds.length, 'clip')}`,
})

/** Whether a track shows its clips as they are. */
function isPlain(edit: Edit, track: Track): boolean {
  const acted = [...edit.all('effects')].some((effect) => effect.ownerId === track.id && effect.domain === 'picture')
  return !track.hidden && !acted && Object.keys(track.params).length === 0
}

function shiftMask(mask: Mask, by: number): Mask {
  const shapes = mask.shapes.map((shape) => ({
    ...shape,
    settings: shiftKeys(shape.settings, by),
    ...(shape.path ? { path: shape.path.map((key) => ({ ...key, at: key.at + by })) } : {}),
  }))
  return { ...mask, shapes }
}

/** A new track right in front of another. */
function trackInFront(edit: Edit, track: Track): Track {
  const siblings = [...edit.all('tracks')].filter((other) => other.reelId === track.reelId).sort(compareOrder)
  const next = siblings.find((other) => other.order > track.order)?.order ?? null
  const { reelId, kind, purpose, name } = track
  const made = createTrack(reelId, kind, purpose, name, orderBetween(track.order, next), () => edit.newId())
  edit.put('tracks', made)
  return made
}

/** Gives a track copies of the picture effects of another, their keyframes later by so many ticks. */
function moveEffects(edit: Edit, fromId: string, toId: string, by: number): void {
  for (const effect of [...edit.all('effects')])
    if (effect.owner === 'track' && effect.ownerId === fromId && effect.domain === 'picture') {
      const mask = effect.mask ? { mask: shiftMask(effect.mask, by) } : {}
      const settings = shiftKeys(effect.settings, by)
      edit.put('effects', { ...effect, ...mask, settings, id: edit.newId(), ownerId: toId })
    }
}

/** Puts the clips of a nested reel in its place, each on a track of its kind with room there, or on a new one. */
export const unnest = defineCommand({
  schema: z.object({ type: z.literal('unnest'), clipId: idSchema }),
  apply(edit, { clipId }) {
    const named = edit.need('clips', clipId)
    if (named.kind !== 'reel') return refuse('kind', 'This clip is not a reel.', [clipId])
    const nested = edit.need('reels', named.nestedId)
    const shells = linkedClips(edit, [clipId]).filter((clip) => clip.kind === 'reel' && clip.nestedId === nested.id)
    const parent = edit.need('reels', openTrack(edit, named.trackId).reelId)
    for (const shell of shells) {
      if (shell.map.kind === 'freeze') refuse('kind', 'A frozen reel can’t be opened out.', [shell.id])
      if (shell.map.kind === 'ramp' || shell.map.speed !== 1)
        refuse('changed', 'This reel plays at another speed. Put that back first.', [shell.id])
      if (Object.keys(shell.params).length > 0 || shell.gain !== 0)
        refuse('changed', 'This reel was moved, faded or made louder as a whole. Put that back first.', [shell.id])
    }
    // What blends or adjusts in one that is not looked through does so among itself alone.
    const alone = named.stream === null && !named.through
    if (alone && [...edit.all('clips')].some((clip) => looksBeneath(clip) && isIn(edit, clip, nested.id)))
      refuse(
        'changed',
        `What is in ${nested.name} blends only among itself, and would change what lies beneath it. ` +
          'Let it be looked through first.',
        [named.id],
      )
    if (nested.format.width !== parent.format.width || nested.format.height !== parent.format.height)
      refuse('format', `${nested.name} has another shape than ${parent.name}, so it stays whole.`, [nested.id])
    for (const shell of shells) edit.remove('clips', shell.id)
    dropLoneLinks(
      edit,
      shells.map((shell) => shell.link),
    )

    const tracks = [...edit.all('tracks')]
    const copyOf = new Map<string, string>()
    const links = new Map<string, string>()
    const renew = (id: string | null) => {
      if (!id) return null
      if (!links.has(id)) links.set(id, edit.newId())
      return links.get(id)!
    }
    for (const shell of shells) {
      const home = edit.need('tracks', shell.trackId)
      const offset = shell.start - sourceTimeAt(shell, shell.start)
      const inside = tracks.filter((track) => track.reelId === nested.id && track.kind === home.kind).sort(compareOrder)
      if (home.kind === 'picture' && inside.length > 1 && !isPlain(edit, home))
        refuse('changed', `${home.name} does something to this reel as one picture. Put it on another track first.`, [
          shell.id,
        ])
      let floor = home.order
      for (const [i, track] of inside.entries()) {
        const clips: Clip[] = []
        for (const clip of edit.clipsOn(track.id)) {
          const from = Math.max(quantise(edit, home, clip.start + offset), shell.start)
          const to = Math.min(quantise(edit, home, clipEnd(clip) + offset), clipEnd(shell))
          if (to <= from) continue
          const moved = { ...clip, start: clip.start + offset }
          const id = edit.newId()
          copyOf.set(clip.id, id)
          clips.push({ ...moved, ...sliceClip(moved, from, to), id, link: renew(clip.link), group: renew(clip.group) })
        }
        if (clips.length === 0) continue
        const first = i === 0 && (home.kind === 'sound' || isPlain(edit, track))
        const target = first ? home : roomFor(edit, parent.id, home, track, floor, clips, offset)
        floor = target.order
        for (const clip of clips) edit.put('clips', { ...clip, trackId: target.id })
      }
    }
    copyTransitions(edit, [...edit.all('transitions')], copyOf)
    for (const [from, to] of copyOf) copyEffects(edit, 'clip', from, to)
    for (const id of links.values()) dropLoneLinks(edit, [id])
  },
  describe: () => 'Opened out a nested reel',
})

/** Whether what a clip shows hangs on what lies beneath it. */
function looksBeneath(clip: Clip): boolean {
  return clip.kind === 'adjustment' || (clip.params.blend !== undefined && clip.params.blend !== 'normal')
}

const isIn = (edit: Edit, clip: Clip, reelId: string) => edit.need('tracks', clip.trackId).reelId === reelId

/**
 * The next track beyond `floor` with nothing where the clips go, or a new one right there. Pictures go to no track that
 * lies in front of one with something there: what is in front of what stays as it is. What was done to all of their
 * track is done to the new one.
 * @param by how much later they are than in their reel
 */
function roomFor(
  edit: Edit,
  reelId: string,
  home: Track,
  like: Track,
  floor: string,
  clips: readonly Clip[],
  by: number,
): Track {
  const siblings = [...edit.all('tracks')].filter((track) => track.reelId === reelId).sort(compareOrder)
  const beyond = siblings.filter((track) => track.order > floor)
  const kin = beyond.filter((track) => track.kind === home.kind)
  const isFree = (track: Track) =>
    !track.locked &&
    !edit
      .clipsOn(track.id)
      .some((there) => clips.some((clip) => clip.start < clipEnd(there) && clipEnd(clip) > there.start))
  const picture = home.kind === 'picture'
  const plain = !picture || isPlain(edit, like)
  const free = picture ? kin.slice(0, 1).find((track) => isFree(track) && isPlain(edit, track)) : kin.find(isFree)
  if (free && plain) return free
  const made = createTrack(
    reelId,
    home.kind,
    like.purpose,
    like.name,
    orderBetween(floor, beyond[0]?.order ?? null),
    () => edit.newId(),
  )
  edit.put('tracks', picture ? { ...made, hidden: like.hidden, params: shiftKeys(like.params, by) } : made)
  if (picture) moveEffects(edit, like.id, made.id, by)
  return made
}
