import type { Format, Reel } from './reel'
import { SCHEMA_VERSION, type Project } from './project'
import type { Purpose, Track } from './track'
import { orderBetween } from './order'

/** Where new ids come from; tests pass a counter. */
export type IdSource = () => string

const randomId: IdSource = () => crypto.randomUUID()

/** A reel with no tracks. */
export function createReel(name: string, format: Format, order: string, newId: IdSource = randomId): Reel {
  return {
    id: newId(),
    name,
    order,
    format,
    background: '#000000',
    fit: 'fit',
    backgroundFill: 'none',
    gain: 0,
    params: {},
  }
}

/** Height on the desk, in pixels, that a new track of a purpose gets. */
export function defaultTrackHeight(purpose: Purpose): number {
  if (purpose === 'picture') return 52
  return purpose === 'titles' ? 32 : 44
}

/** A track with everything switched on. */
export function createTrack(
  reelId: string,
  kind: Track['kind'],
  purpose: Purpose,
  name: string,
  order: string,
  newId: IdSource = randomId,
): Track {
  return {
    id: newId(),
    reelId,
    kind,
    purpose,
    name,
    order,
    height: defaultTrackHeight(purpose),
    hidden: false,
    muted: false,
    solo: false,
    locked: false,
    gain: 0,
    params: {},
  }
}

/** The tracks a new reel begins with: two for pictures, and for sound the voice, the music and the effects. */
export function createTracks(reelId: string, newId: IdSource = randomId): Track[] {
  const plan: [Track['kind'], Purpose, string][] = [
    ['picture', 'picture', 'Picture 1'],
    ['picture', 'picture', 'Picture 2'],
    ['sound', 'voice', 'Voice'],
    ['sound', 'music', 'Music'],
    ['sound', 'effects', 'Effects'],
  ]
  let order: string | null = null
  return plan.map(([kind, purpose, name]) => {
    order = orderBetween(order, null)
    return createTrack(reelId, kind, purpose, name, order, newId)
  })
}

/** A project with one empty reel. */
export function createProject(name: string, format: Format, newId: IdSource = randomId): Project {
  const reel = createReel(name, format, orderBetween(null, null), newId)
  return {
    schemaVersion: SCHEMA_VERSION,
    id: newId(),
    name,
    assets: {},
    reels: { [reel.id]: reel },
    tracks: Object.fromEntries(createTracks(reel.id, newId).map((track) => [track.id, track])),
    clips: {},
    transitions: {},
    markers: {},
    subclips: {},
    folders: {},
    effects: {},
  }
}
