import { REEL_RATES } from '../../src/index'
import { ASSETS, CARD, f, HARBOUR, SONG } from '../helpers'
import { freshId, type Makers } from './sight'

/** Wishes about sources, folders, reels, tracks and markers. */
export const PROJECT_WISHES = {
  addAsset: ({ w }) => {
    const like = ASSETS[w.pick % 3]!
    const length = like.kind === 'still' ? 0 : f(w.length) + (w.at % 2) * 7
    const sounds = w.flag ? [] : like.sounds.map((sound) => ({ ...sound, length }))
    return { type: 'addAsset', asset: { ...like, id: freshId(), length, sounds } }
  },
  renameAsset: ({ w }) => ({ type: 'renameAsset', assetId: w.flag ? HARBOUR : SONG, name: `quay-${w.at}` }),
  removeAsset: ({ w }) => (w.pick % 10 === 0 ? { type: 'removeAsset', assetId: CARD } : null),
  // Rarely, or hardly anything would be left to do something to.
  removeAssets: ({ w, project }) => {
    const assetIds = Object.keys(project.assets).filter((id) => id !== HARBOUR)
    return w.pick % 20 === 0 && assetIds.length > 0 ? { type: 'removeAssets', assetIds } : null
  },
  replaceSource: ({ w, project }) => {
    const sources = Object.values(project.assets)
    const old = sources[w.pick % sources.length]
    const next = sources.filter((asset) => asset.kind === old?.kind && asset !== old)[w.other % sources.length]
    return old && next ? { type: 'replaceSource', assetId: old.id, withId: next.id } : null
  },
  addFolder: ({ w, folders }) => ({
    type: 'addFolder',
    folderId: freshId(),
    name: 'Night',
    parentId: w.flag ? (folders[0] ?? null) : null,
  }),
  setFolder: ({ w, folders }) =>
    folders.length > 0
      ? {
          type: 'setFolder',
          folderId: folders[w.pick % folders.length]!,
          set: { parentId: folders[w.other % folders.length]! },
        }
      : null,
  removeFolder: ({ w, folders }) =>
    folders.length > 0 ? { type: 'removeFolder', folderId: folders[w.pick % folders.length]! } : null,
  setAssets: ({ w, folders }) => ({
    type: 'setAssets',
    assetIds: [HARBOUR],
    set: { folderId: folders[w.pick % Math.max(folders.length, 1)] ?? null, label: 'moss' },
  }),
  addSubclip: ({ w }) => ({
    type: 'addSubclip',
    subclip: {
      id: freshId(),
      assetId: HARBOUR,
      name: 'Good part',
      from: f(w.at % 200),
      to: f((w.at % 200) + w.length),
    },
  }),
  setSubclip: ({ w, project }) => {
    const subclipId = Object.keys(project.subclips)[0]
    return subclipId ? { type: 'setSubclip', subclipId, set: { from: f(w.at % 200), name: 'Better part' } } : null
  },
  removeSubclip: ({ project }) => {
    const subclipId = Object.keys(project.subclips)[0]
    return subclipId ? { type: 'removeSubclip', subclipId } : null
  },
  addReel: ({ project, reelId }) => ({
    type: 'addReel',
    reelId: freshId(),
    name: 'Another',
    format: project.reels[reelId]!.format,
  }),
  duplicateReel: ({ w, project, reelId }) =>
    w.pick % 4 === 0 && Object.keys(project.reels).length < 4
      ? { type: 'duplicateReel', reelId, newReelId: freshId(), name: 'Twice' }
      : null,
  removeReel: ({ w, project, reelId }) => {
    const spare = Object.keys(project.reels).find((id) => id !== reelId)
    return spare && w.pick % 4 === 0 ? { type: 'removeReel', reelId: spare } : null
  },
  setReel: ({ w, reelId }) => ({
    type: 'setReel',
    reelId,
    set: { format: { width: w.flag ? 1920 : 1080, height: 1080, rate: REEL_RATES[w.pick % REEL_RATES.length]! } },
  }),
  setReelParams: ({ w, reelId }) => ({ type: 'setReelParams', reelId, set: { level: -(w.at % 40) } }),
  renameProject: ({ w }) => ({ type: 'renameProject', name: `Lantern Night ${w.at}` }),
  addMarkers: ({ w, reelId, clip, at }) => ({
    type: 'addMarkers',
    markers: [
      {
        id: freshId(),
        reelId: w.flag || !clip ? reelId : null,
        clipId: w.flag || !clip ? null : clip.id,
        at,
        length: f(w.length % 20),
        name: 'Here',
        colour: 'lamp',
        note: '',
      },
    ],
  }),
  setMarker: ({ marker, at }) =>
    marker ? { type: 'setMarker', markerId: marker.id, set: { at, name: 'There' } } : null,
  removeMarkers: ({ marker }) => (marker ? { type: 'removeMarkers', markerIds: [marker.id] } : null),
  addTrack: ({ w, reelId }) => ({ type: 'addTrack', reelId, purpose: w.flag ? 'picture' : 'music' }),
  setTrack: ({ track }) => track && { type: 'setTrack', trackId: track.id, set: { locked: !track.locked } },
  moveTrack: ({ w, tracks, track }) =>
    track
      ? { type: 'moveTrack', trackId: track.id, after: w.flag ? null : (tracks[w.pick % tracks.length]?.id ?? null) }
      : null,
  removeTrack: ({ tracks, track }) => (track && tracks.length > 3 ? { type: 'removeTrack', trackId: track.id } : null),
  setTrackParams: ({ w, track }) =>
    track ? { type: 'setTrackParams', trackId: track.id, set: { opacity: w.at % 100 } } : null,
} satisfies Partial<Makers>
