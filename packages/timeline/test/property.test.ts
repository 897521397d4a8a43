import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import {
  applyCommand,
  applyDelta,
  check,
  clipEnd,
  CommandRefused,
  commandSchema,
  describeCommand,
  documentDelta,
  dropStep,
  EMPTY_HISTORY,
  pushStep,
  redoCommand,
  REEL_RATES,
  takeRedo,
  takeUndo,
  undoCommand,
  type Command,
  type CommandInput,
  type History,
  type Patch,
  type Project,
} from '../src/index'
import { ASSETS, CARD, desk, f, HARBOUR, SONG, uuid } from './helpers'

/** A wish for a command; subclips are turned into ids of what is there when its turn comes. */
interface Wish {
  type: string
  pick: number
  other: number
  at: number
  length: number
  mode: 'free' | 'insert' | 'push' | 'over'
  flag: boolean
}

const wish: fc.Arbitrary<Wish> = fc.record({
  type: fc.constantFrom(
    'place',
    'place',
    'place',
    'move',
    'move',
    'trim',
    'trim',
    'split',
    'splitAll',
    'remove',
    'closeGap',
    'setClips',
    'setReel',
    'addTrack',
    'moveTrack',
    'removeTrack',
    'lock',
    'removeAsset',
    'undo',
    'undo',
    'redo',
    'append',
    'stackAbove',
    'replace',
    'ripple',
    'roll',
    'slip',
    'slide',
    'join',
    'freeze',
    'record',
    'recut',
    'addTake',
    'chooseTake',
    'removeTake',
    'swap',
    'cutOut',
    'closeGaps',
    'duplicate',
    'reorder',
    'paste',
    'link',
    'unlink',
    'group',
    'ungroup',
    'resync',
    'nest',
    'unnest',
    'addReel',
    'removeReel',
    'addMarkers',
    'setMarker',
    'removeMarkers',
    'copySettings',
    'addSubclip',
    'addAsset',
    'replaceSource',
    'removeSubclip',
    'addFolder',
    'setFolder',
    'removeFolder',
    'setAssets',
    'addTransitions',
    'addTransitions',
    'addTransitions',
    'setTransitions',
    'removeTransitions',
    'setParams',
    'setTrackParams',
    'addGenerated',
    'setTitle',
    'setSpeed',
    'setSpeed',
    'setSpeedCurve',
    'setPartSpeed',
    'setGains',
    'addEffects',
    'setEffects',
    'moveEffect',
    'removeEffects',
  ),
  pick: fc.nat(1000),
  other: fc.nat(1000),
  at: fc.integer({ min: 0, max: 900 }),
  length: fc.integer({ min: 1, max: 400 }),
  mode: fc.constantFrom('free', 'insert', 'push', 'over'),
  flag: fc.boolean(),
})

let ids = 0x10_0000

function toCommand(project: Project, reelId: string, w: Wish): CommandInput | null {
  const clips = Object.values(project.clips)
  const tracks = Object.values(project.tracks)
  const clip = clips[w.pick % Math.max(clips.length, 1)]
  const track = tracks[w.other % Math.max(tracks.length, 1)]
  const other = clips[w.other % Math.max(clips.length, 1)]
  const next =
    clip && clips.find((candidate) => candidate.trackId === clip.trackId && candidate.start === clipEnd(clip))
  const scope = (['track', 'unlocked', 'all'] as const)[w.other % 3]!
  const marker = Object.values(project.markers)[w.pick % Math.max(Object.keys(project.markers).length, 1)]
  const folders = Object.keys(project.folders)
  const transitions = Object.keys(project.transitions)
  const effects = Object.keys(project.effects)
  // An odd tick now and then: commands have to bring everything onto its grid themselves.
  const at = f(w.at) + (w.flag ? 7_351 : 0)
  switch (w.type) {
    case 'place': {
      if (!track) return null
      const picture = track.kind === 'picture'
      const assetId = picture ? [HARBOUR, CARD][w.pick % 2]! : [HARBOUR, SONG][w.pick % 2]!
      const link = w.flag ? uuid(ids++) : null
      const piece = { assetId, start: at, length: f(w.length), source: f(w.pick % 250), link }
      const pieces = [{ ...piece, clipId: uuid(ids++), trackId: track.id, stream: picture ? null : 0 }]
      const partner = tracks.find((other) => other.kind !== track.kind)
      if (link && assetId === HARBOUR && partner)
        pieces.push({ ...piece, clipId: uuid(ids++), trackId: partner.id, stream: picture ? 0 : null })
      return { type: 'place', pieces, mode: w.mode }
    }
    case 'move': {
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
    }
    case 'trim':
      return clip
        ? { type: 'trim', clipId: clip.id, edge: w.flag ? 'start' : 'end', to: at, linked: w.other % 3 > 0 }
        : null
    case 'split':
      return clip ? { type: 'split', reelId, at: clip.start + Math.round(clip.length / 3), clipIds: [clip.id] } : null
    case 'splitAll':
      return { type: 'split', reelId, at, clipIds: null }
    case 'remove':
      return clip ? { type: 'remove', clipIds: [clip.id], closeUp: w.flag, scope } : null
    case 'closeGap':
      return track ? { type: 'closeGap', trackId: track.id, at, scope } : null
    case 'setClips':
      return clip ? { type: 'setClips', clipIds: [clip.id], set: { gain: -1 - (w.at % 60) } } : null
    case 'setReel':
      return {
        type: 'setReel',
        reelId,
        set: { format: { width: w.flag ? 1920 : 1080, height: 1080, rate: REEL_RATES[w.pick % REEL_RATES.length]! } },
      }
    case 'addTrack':
      return { type: 'addTrack', reelId, purpose: w.flag ? 'picture' : 'music' }
    case 'removeTrack':
      return track && tracks.length > 3 ? { type: 'removeTrack', trackId: track.id } : null
    case 'lock':
      return track ? { type: 'setTrack', trackId: track.id, set: { locked: !track.locked } } : null
    case 'moveTrack':
      return track
        ? { type: 'moveTrack', trackId: track.id, after: w.flag ? null : (tracks[w.pick % tracks.length]?.id ?? null) }
        : null
    case 'append':
    case 'stackAbove': {
      if (!track) return null
      const picture = track.kind === 'picture'
      const base = { assetId: HARBOUR, start: at, length: f(w.length), source: f(w.pick % 250), link: null }
      return { type: w.type, pieces: [{ ...base, clipId: uuid(ids++), trackId: track.id, stream: picture ? null : 0 }] }
    }
    case 'replace':
      return clip
        ? {
            ...{
              type: 'replace',
              clipId: clip.id,
              assetId: [HARBOUR, CARD, SONG][w.other % 3]!,
              source: f(w.at % 300),
            },
            short: (['shorten', 'slow', 'hold'] as const)[w.pick % 3]!,
          }
        : null
    case 'ripple':
      return clip
        ? {
            type: 'trim',
            clipId: clip.id,
            edge: w.flag ? 'start' : 'end',
            to: (w.flag ? clip.start : clipEnd(clip)) + f(w.at % 60) - f(30),
            mode: 'ripple',
            scope,
          }
        : null
    case 'roll':
      return clip && next
        ? { type: 'roll', leftId: clip.id, rightId: next.id, to: Math.max(0, clipEnd(clip) + f(w.at % 40) - f(20)) }
        : null
    case 'slip':
      return clip ? { type: 'slip', clipIds: [clip.id], by: f(w.at % 90) - f(45), linked: w.flag } : null
    case 'slide':
      return clip ? { type: 'slide', clipId: clip.id, by: f(w.at % 40) - f(20), linked: w.flag } : null
    case 'join':
      return clip && next ? { type: 'join', leftId: clip.id, rightId: next.id } : null
    case 'freeze':
      return clip
        ? { type: 'freeze', clipId: clip.id, at: clip.start + Math.round(clip.length / 2), length: f(w.length), scope }
        : null
    case 'record':
      return track
        ? {
            ...{ type: 'record', clipId: uuid(ids++), trackId: track.id, assetId: w.flag ? HARBOUR : SONG },
            ...{ start: at, length: f(w.length), source: f(w.pick % 250) },
          }
        : null
    case 'recut': {
      const part = { source: f(w.pick % 250), length: f(1 + (w.length % 40)) }
      const parts = [part, { source: f(w.other % 200), length: f(1 + (w.at % 30)) }]
      return clip ? { type: 'recut', clipIds: [clip.id], parts, crossfade: f(w.pick % 8), fadeOut: f(w.at % 5) } : null
    }
    case 'addTake':
      return clip ? { type: 'addTake', clipId: clip.id, assetId: w.flag ? HARBOUR : SONG, at, source: 0 } : null
    case 'chooseTake':
    case 'removeTake': {
      const takes = (clip?.kind === 'media' && clip.takes) || []
      return clip && takes.length > 0
        ? { type: w.type, clipId: clip.id, assetId: takes[w.other % takes.length]!.assetId }
        : null
    }
    case 'swap':
      return clip ? { type: 'swap', clipId: clip.id, with: w.flag ? 'next' : 'previous' } : null
    case 'cutOut':
      return {
        type: 'cutOut',
        reelId,
        from: at,
        to: at + f(w.length),
        closeUp: w.flag,
        scope,
        trackId: scope === 'track' ? (track?.id ?? null) : null,
      }
    case 'closeGaps':
      return track ? { type: 'closeGaps', trackId: track.id, scope } : null
    case 'reorder':
      return clip && other ? { type: 'reorder', clipId: clip.id, before: w.flag ? null : other.id } : null
    case 'duplicate':
      return clip ? { type: 'duplicate', clipIds: [clip.id], mode: w.mode } : null
    case 'paste':
      return clip ? { type: 'paste', clips: [clip], at, mode: w.mode } : null
    case 'link':
    case 'group':
      return clip && other && clip.id !== other.id ? { type: w.type, clipIds: [clip.id, other.id] } : null
    case 'unlink':
    case 'ungroup':
    case 'resync':
      return clip ? { type: w.type, clipIds: [clip.id] } : null
    case 'nest':
      return clip && other
        ? { type: 'nest', clipIds: [...new Set([clip.id, other.id])], reelId: uuid(ids++), name: 'Inner' }
        : null
    case 'unnest': {
      const shell = clips.find((candidate) => candidate.kind === 'reel')
      return shell ? { type: 'unnest', clipId: shell.id } : null
    }
    case 'addReel':
      return { type: 'addReel', reelId: uuid(ids++), name: 'Another', format: project.reels[reelId]!.format }
    case 'removeReel': {
      const spare = Object.keys(project.reels).find((id) => id !== reelId)
      return spare && w.pick % 4 === 0 ? { type: 'removeReel', reelId: spare } : null
    }
    case 'addMarkers':
      return {
        type: 'addMarkers',
        markers: [
          {
            id: uuid(ids++),
            reelId: w.flag || !clip ? reelId : null,
            clipId: w.flag || !clip ? null : clip.id,
            at,
            length: f(w.length % 20),
            name: 'Here',
            colour: 'lamp',
            note: '',
          },
        ],
      }
    case 'setMarker':
      return marker ? { type: 'setMarker', markerId: marker.id, set: { at, name: 'There' } } : null
    case 'removeMarkers':
      return marker ? { type: 'removeMarkers', markerIds: [marker.id] } : null
    case 'copySettings':
      return clip
        ? {
            type: 'copySettings',
            fromId: clip.id,
            to: w.flag || !other ? 'source' : [other.id],
            kinds: ['motion', 'look', 'sound'],
          }
        : null
    case 'addAsset': {
      const like = ASSETS[w.pick % 3]!
      const length = like.kind === 'still' ? 0 : f(w.length) + (w.at % 2) * 7
      const sounds = w.flag ? [] : like.sounds.map((sound) => ({ ...sound, length }))
      return { type: 'addAsset', asset: { ...like, id: uuid(ids++), length, sounds } }
    }
    case 'replaceSource': {
      const sources = Object.values(project.assets)
      const old = sources[w.pick % sources.length]
      const next = sources.filter((asset) => asset.kind === old?.kind && asset !== old)[w.other % sources.length]
      return old && next ? { type: 'replaceSource', assetId: old.id, withId: next.id } : null
    }
    case 'addSubclip':
      return {
        type: 'addSubclip',
        subclip: {
          id: uuid(ids++),
          assetId: HARBOUR,
          name: 'Good part',
          from: f(w.at % 200),
          to: f((w.at % 200) + w.length),
        },
      }
    case 'removeSubclip': {
      const pick = Object.keys(project.subclips)[0]
      return pick ? { type: 'removeSubclip', subclipId: pick } : null
    }
    case 'addFolder':
      return { type: 'addFolder', folderId: uuid(ids++), name: 'Night', parentId: w.flag ? (folders[0] ?? null) : null }
    case 'setFolder':
      return folders.length > 0
        ? {
            type: 'setFolder',
            folderId: folders[w.pick % folders.length]!,
            set: { parentId: folders[w.other % folders.length]! },
          }
        : null
    case 'removeFolder':
      return folders.length > 0 ? { type: 'removeFolder', folderId: folders[w.pick % folders.length]! } : null
    case 'setAssets':
      return {
        type: 'setAssets',
        assetIds: [HARBOUR],
        set: { folderId: folders[w.pick % Math.max(folders.length, 1)] ?? null, label: 'moss' },
      }
    case 'addTransitions': {
      if (!clip) return null
      const [leftId, rightId] = next ? [clip.id, next.id] : w.flag ? [clip.id, null] : [null, clip.id]
      const [before, after] = [leftId ? f(w.length % 40) : 0, rightId ? f(w.other % 40) : 0]
      return {
        type: 'addTransitions',
        transitions: [
          {
            id: uuid(ids++),
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
    }
    case 'setTransitions':
      return transitions.length > 0
        ? {
            type: 'setTransitions',
            transitionIds: [transitions[w.pick % transitions.length]!],
            set: { before: f(w.length % 30), missing: w.flag ? 'hold' : 'shorten' },
          }
        : null
    case 'removeTransitions':
      return transitions.length > 0
        ? { type: 'removeTransitions', transitionIds: [transitions[w.pick % transitions.length]!] }
        : null
    case 'setParams':
      return clip
        ? {
            type: 'setParams',
            clipIds: [clip.id],
            set: {
              position: w.flag ? [w.at, 3] : { keys: [{ at: f(w.at), value: [w.at, 0], ease: 'both' }] },
              size: w.pick % 3 ? 40 : null,
            },
          }
        : null
    case 'setTrackParams':
      return track ? { type: 'setTrackParams', trackId: track.id, set: { opacity: w.at % 100 } } : null
    case 'addGenerated':
      return track
        ? {
            type: 'addGenerated',
            mode: w.mode,
            generated: [
              {
                kind: 'title',
                clipId: uuid(ids++),
                trackId: track.id,
                start: at,
                length: f(w.length),
                title: { text: 'Lantern night', style: { size: 80 }, runs: [], in: null, out: null, during: null },
              },
            ],
          }
        : null
    case 'setTitle':
      return clip ? { type: 'setTitle', clipIds: [clip.id], set: { text: 'Quay' }, style: { size: w.at + 1 } } : null
    case 'setSpeed':
      return clip
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
        : null
    case 'setSpeedCurve':
      return clip
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
        : null
    case 'setPartSpeed':
      return clip
        ? { type: 'setPartSpeed', clipId: clip.id, from: at, to: at + f(w.length), speed: w.flag ? 2 : 0.5, scope }
        : null
    case 'setGains':
      return clip ? { type: 'setGains', clips: [{ clipId: clip.id, gain: (w.at % 40) - 20 }] } : null
    case 'addEffects': {
      const owner = (['clip', 'track', 'reel'] as const)[w.pick % 3]!
      const ownerId = owner === 'clip' ? clip?.id : owner === 'track' ? track?.id : reelId
      const effect = { domain: 'sound' as const, kind: 'echo', settings: { time: w.length }, strength: w.at % 101 }
      return ownerId ? { type: 'addEffects', owner, ownerIds: [ownerId], effects: [effect], replace: w.flag } : null
    }
    case 'setEffects':
      return effects[0]
        ? {
            type: 'setEffects',
            effectIds: [effects[w.pick % effects.length]!],
            set: { on: w.flag, strength: w.at % 101 },
          }
        : null
    case 'moveEffect':
      return effects[0]
        ? { type: 'moveEffect', effectId: effects[w.pick % effects.length]!, after: w.flag ? null : effects[0] }
        : null
    case 'removeEffects':
      return effects[0] ? { type: 'removeEffects', effectIds: [effects[w.pick % effects.length]!] } : null
    case 'removeAsset':
      return w.pick % 10 === 0 ? { type: 'removeAsset', assetId: CARD } : null
  }
  return null
}

describe('random sequences of commands with undo and redo', () => {
  // DUSK_RUNS makes a long run of it: ./dusk test --long sets 5000.
  const runs = Number(process.env.DUSK_RUNS ?? 300)
  it(`keeps every rule of the document, and undo brings the exact document back (${runs} runs)`, () => {
    let carriedOut = 0
    fc.assert(
      fc.property(fc.array(wish, { minLength: 5, maxLength: 200, size: 'max' }), (wishes) => {
        const start = desk()
        let project = start.project
        let history: History = EMPTY_HISTORY
        let told: Project | null = null
        let mirror: Project | null = null
        const log = new Map<string, Patch[]>()
        const commandFor = (type: string, { id, label }: { id: string; label: string }) =>
          (type === 'undo' ? undoCommand : redoCommand)(label, log.get(id)!)
        const perform = (command: Command) => applyCommand(project, commandSchema.parse(command), uuid(ids++))
        for (const w of wishes) {
          const taken = w.type === 'undo' ? takeUndo(history) : w.type === 'redo' ? takeRedo(history) : null
          if (taken) {
            project = perform(commandFor(w.type, taken.step)).project
            history = taken.history
          } else {
            const input = toCommand(project, start.reelId, w)
            if (!input) continue
            const command = commandSchema.parse(input)
            const before = JSON.stringify(project)
            try {
              const id = uuid((ids += 64))
              const applied = applyCommand(project, command, id)
              log.set(id, applied.patches)
              history = pushStep(history, { id, label: describeCommand(command) })
              expect(JSON.stringify(project)).toBe(before)
              project = applied.project
              carriedOut++
            } catch (error) {
              if (!(error instanceof CommandRefused)) throw error
              expect(JSON.stringify(project)).toBe(before)
            }
          }
          expect(check(project)).toEqual([])
          // Somebody who is told only of differences holds the same document.
          mirror = applyDelta(mirror, structuredClone(documentDelta(told, project)))
          told = project
          expect(mirror).toEqual(project)
        }
        const end = project
        const steps = history.done.length
        for (let taken = takeUndo(history); taken; taken = takeUndo(history)) {
          project = perform(commandFor('undo', taken.step)).project
          history = taken.history
        }
        expect(project).toEqual(start.project)
        for (let i = 0; i < steps; i++) {
          const taken = takeRedo(history)!
          project = perform(commandFor('redo', taken.step)).project
          history = taken.history
        }
        expect(project).toEqual(end)
      }),
      { numRuns: runs },
    )
    // The sequences must do something: most wishes are carried out, not refused.
    expect(carriedOut).toBeGreaterThan(runs * 4)
  })

  it(`keeps every rule when two windows undo and redo across each other (${runs} runs)`, () => {
    let [takenBack, refused] = [0, 0]
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.boolean(), wish), { minLength: 10, maxLength: 120, size: 'max' }), (wishes) => {
        const start = desk()
        let project = start.project
        const log = new Map<string, Patch[]>()
        const histories: History[] = [EMPTY_HISTORY, EMPTY_HISTORY]
        for (const [second, w] of wishes) {
          const own = Number(second)
          const taken =
            w.type === 'undo' ? takeUndo(histories[own]!) : w.type === 'redo' ? takeRedo(histories[own]!) : null
          const input = taken
            ? (w.type === 'undo' ? undoCommand : redoCommand)(taken.step.label, log.get(taken.step.id)!)
            : toCommand(project, start.reelId, w)
          if (!input) continue
          const id = uuid((ids += 64))
          try {
            const command = commandSchema.parse(input)
            const applied = applyCommand(project, command, id)
            project = applied.project
            log.set(id, applied.patches)
            histories[own] = taken ? taken.history : pushStep(histories[own]!, { id, label: describeCommand(command) })
            if (taken) takenBack++
          } catch (error) {
            if (!(error instanceof CommandRefused)) throw error
            refused++
            // A step that can't be taken back is forgotten, as in the desk.
            if (taken) histories[own] = dropStep(histories[own]!, taken.step.id)
          }
          expect(check(project)).toEqual([])
        }
      }),
      { numRuns: runs },
    )
    expect(takenBack).toBeGreaterThan(runs)
    expect(refused).toBeGreaterThan(0)
  })
})
