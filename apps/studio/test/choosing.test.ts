import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createPinia, setActivePinia } from 'pinia'
import {
  applyCommand,
  check,
  clipsOn,
  commandSchema,
  createProject,
  pictureLayers,
  planFrame,
  planSound,
  reelsOf,
  tracksOf,
  type Asset,
  type AssetFacts,
  type CommandInput,
  type Project,
} from '@dusk/timeline'
import { findAssets, foldersIn, pathOf, type LibraryFilter } from '~/features/library/library'
import { sourceReel } from '~/features/player/sourceProject'
import { copyOf, planPaste, sourcesOf, withSources } from '~/features/timeline/clipboard'
import { layOut } from '~/features/timeline/drop'
import { rowsOf } from '~/features/timeline/layout'
import { withGroups } from '~/features/timeline/ties'
import { useProject } from '~/features/project/projectStore'
import { useSource } from '~/features/player/sourceStore'
import { Server } from './tools/server'

const SECOND = 705_600_000
const id = (n: number) => `00000000-0000-4000-8000-${n.toString(16).padStart(12, '0')}`
const shot: AssetFacts = {
  id: id(0xa1),
  name: 'harbour-wide.mp4',
  kind: 'video',
  length: 10 * SECOND,
  picture: { width: 1279, height: 720, rate: { num: 24000, den: 1001 }, variable: false, alpha: false },
  sounds: [{ channels: 2, length: 10 * SECOND, title: '' }],
}
const card: AssetFacts = {
  ...shot,
  id: id(0xa3),
  name: 'lantern card.png',
  kind: 'still',
  length: 0,
  sounds: [],
  picture: { ...shot.picture!, rate: null },
}

function perform(project: Project, input: CommandInput): Project {
  return applyCommand(project, commandSchema.parse(input), crypto.randomUUID()).project
}

function desk() {
  let project = createProject('Desk', { width: 1920, height: 1080, rate: { num: 30, den: 1 } })
  for (const asset of [shot, card]) project = perform(project, { type: 'addAsset', asset })
  return { project, reelId: reelsOf(project)[0]!.id }
}

describe('a source watched by itself', () => {
  const asset: Asset = { ...shot, folderId: null, label: null, note: '' }

  it('is a valid reel of its own in its own shape and rate, from its first frame to its last', () => {
    const reel = sourceReel(asset)
    expect(check(reel.project)).toEqual([])
    expect(reel.project.reels[reel.reelId]!.format).toEqual({
      width: 1280,
      height: 720,
      rate: { num: 24000, den: 1001 },
    })
    expect(reel.length).toBeGreaterThanOrEqual(asset.length)
    const size = { width: 1280, height: 720 }
    for (const at of [0, 5 * SECOND, reel.length - 1]) {
      const [layer] = pictureLayers(planFrame(reel.project, reel.reelId, at, size))
      expect(layer).toMatchObject({ assetId: asset.id, time: Math.min(at, asset.length - 1) })
    }
    expect(planSound(reel.project, reel.reelId, 0, reel.length).pieces).toHaveLength(1)
  })

  it('lasts five seconds when it is a still, and has no picture when it is a sound', () => {
    expect(sourceReel({ ...asset, ...card }).length).toBeCloseTo(5 * SECOND, -7)
    const sound = sourceReel({ ...asset, kind: 'sound', picture: null })
    expect(planFrame(sound.project, sound.reelId, 0, { width: 64, height: 36 }).layers).toEqual([])
  })
})

describe('marks of the open source', () => {
  beforeEach(async () => {
    setActivePinia(createPinia())
    const server = new Server(desk().project)
    vi.stubGlobal('fetch', server.fetch)
    await useProject().open(server.project.id)
  })

  it('bound a part, and one that would make it empty takes the other away', () => {
    const source = useSource()
    source.open(shot.id, 7 * SECOND, 0)
    expect(source.parked).toBe(7 * SECOND)
    expect(source.range.from).toBe(0)
    source.mark('in', 2 * SECOND)
    source.mark('out', 4 * SECOND)
    expect(source.range).toEqual({ from: 2 * SECOND, to: 4 * SECOND })
    source.mark('in', 6 * SECOND)
    expect(source.to).toBeNull()
    expect(source.range.to).toBe(source.reel!.length)
  })

  it('are there again when the source is opened again, with the place it stood at', () => {
    const source = useSource()
    source.open(shot.id, 0, 0)
    source.mark('in', SECOND)
    source.open(card.id, 0, 3 * SECOND)
    expect(source.from).toBeNull()
    source.open(shot.id, 0, 0)
    expect([source.from, source.startAt]).toEqual([SECOND, 3 * SECOND])
    source.close(0)
    expect(source.asset).toBeNull()
  })
})

describe('laying parts out', () => {
  it('takes only the picture or only the sound where that is asked for', () => {
    const { project, reelId } = desk()
    const asset = project.assets[shot.id]!
    const kinds = (use: 'both' | 'picture' | 'sound') => {
      const laid = layOut(project, rowsOf(project, reelId), [{ asset, from: SECOND, length: SECOND, use }], {}, 0)
      if (typeof laid === 'string') throw new Error(laid)
      return laid.pieces.map((piece) => project.tracks[piece.trackId]!.kind)
    }
    expect(kinds('both')).toEqual(['picture', 'sound'])
    expect(kinds('picture')).toEqual(['picture'])
    expect(kinds('sound')).toEqual(['sound'])
  })
})

describe('copying', () => {
  it('takes the reels that play in a clip along into another project, with their sources', () => {
    const { project: empty, reelId } = desk()
    const [picture1] = tracksOf(empty, reelId)
    let project = perform(empty, {
      type: 'place',
      mode: 'free',
      pieces: [
        {
          clipId: id(1),
          trackId: picture1!.id,
          assetId: card.id,
          stream: null,
          start: SECOND,
          length: SECOND,
          source: 0,
          link: null,
        },
      ],
    })
    project = perform(project, { type: 'nest', clipIds: [id(1)], reelId: id(7), name: 'Boats' })
    project = perform(project, {
      type: 'nest',
      clipIds: [clipsOn(project, picture1!.id)[0]!.id],
      reelId: id(8),
      name: 'Quay',
    })
    const copied = copyOf(project, [clipsOn(project, picture1!.id)[0]!.id])
    expect(copied.reels?.map(({ reel }) => reel.name).sort()).toEqual(['Boats', 'Quay'])
    expect(sourcesOf(copied)).toEqual([card.id])

    // The other project knows the card under another id.
    const other = {
      ...empty,
      assets: { ...empty.assets, [id(99)]: { ...card, id: id(99), folderId: null, label: null, note: '' } },
    }
    const plan = planPaste(withSources(copied, { [card.id]: id(99) }), other, reelId, 0, 'insert')
    if (typeof plan === 'string') throw new Error(plan)
    const there = perform(other, plan.command)
    expect(check(there)).toEqual([])
    expect(
      Object.values(there.reels)
        .map((reel) => reel.name)
        .sort(),
    ).toEqual([empty.reels[reelId]!.name, 'Boats', 'Quay'].sort())
    expect(Object.values(there.clips).flatMap((clip) => (clip.kind === 'media' ? [clip.assetId] : []))).toEqual([
      id(99),
    ])
    // Pasted again, the reels are there already.
    const again = planPaste(withSources(copied, { [card.id]: id(99) }), there, reelId, 5 * SECOND, 'insert')
    if (typeof again === 'string') throw new Error(again)
    expect(Object.keys(perform(there, again.command).reels)).toHaveLength(3)
    // Without the source nothing is brought.
    const poor = planPaste(withSources(copied, { [card.id]: id(98) }), empty, reelId, 0, 'insert')
    if (typeof poor === 'string') throw new Error(poor)
    expect(() => perform(empty, poor.command)).toThrow('A source of Boats is not in this project')
  })

  it('pastes on the tracks clips came from, and in another reel on their like', () => {
    const { project: empty, reelId } = desk()
    let project = empty
    const picture2 = tracksOf(project, reelId)[1]!
    project = perform(project, {
      type: 'place',
      mode: 'free',
      pieces: [
        {
          clipId: id(1),
          trackId: picture2.id,
          assetId: card.id,
          stream: null,
          start: SECOND,
          length: SECOND,
          source: 0,
          link: null,
        },
      ],
    })
    const copied = copyOf(project, [id(1)])
    const same = planPaste(copied, project, reelId, 5 * SECOND, 'insert')
    if (typeof same === 'string') throw new Error(same)
    const pasted = perform(project, same.command)
    expect(clipsOn(pasted, picture2.id).map((clip) => clip.start / SECOND)).toEqual([1, 5])
    expect(same.end).toBe(6 * SECOND)

    project = perform(project, {
      type: 'addReel',
      reelId: id(2),
      name: 'Tall',
      format: { width: 720, height: 1280, rate: { num: 25, den: 1 } },
    })
    const other = planPaste(copied, project, id(2), 0, 'insert')
    if (typeof other === 'string') throw new Error(other)
    const there = perform(project, other.command)
    expect(clipsOn(there, tracksOf(there, id(2))[1]!.id)).toHaveLength(1)
    for (const track of tracksOf(project, id(2)))
      project = perform(project, { type: 'setTrack', trackId: track.id, set: { locked: true } })
    expect(planPaste(copied, project, id(2), 0, 'insert')).toContain('no unlocked picture track')
  })

  it('takes groups whole', () => {
    const { project: empty, reelId } = desk()
    let project = empty
    const [track] = tracksOf(project, reelId)
    for (const n of [1, 2, 3])
      project = perform(project, {
        type: 'place',
        mode: 'free',
        pieces: [
          {
            clipId: id(n),
            trackId: track!.id,
            assetId: card.id,
            stream: null,
            start: n * SECOND,
            length: SECOND,
            source: 0,
            link: null,
          },
        ],
      })
    project = perform(project, { type: 'group', clipIds: [id(1), id(3)] })
    expect(withGroups(project, [id(3)]).sort()).toEqual([id(1), id(3)])
    expect(withGroups(project, [id(2)])).toEqual([id(2)])
  })
})

describe('the library', () => {
  const asset = (n: number, name: string, more: Partial<Asset> = {}): Asset => ({
    ...shot,
    id: id(n),
    name,
    folderId: null,
    label: null,
    note: '',
    ...more,
  })
  const assets = [
    asset(1, 'boats 10.mp4', { folderId: id(90), length: 3 * SECOND }),
    asset(2, 'boats 9.mp4', { label: 'moss', note: 'the red sail' }),
    asset(3, 'song.wav', { kind: 'sound', length: 60 * SECOND }),
  ]
  const all: LibraryFilter = { words: '', kind: 'all', label: null, folderId: 'everywhere', use: 'all' }
  const find = (filter: Partial<LibraryFilter>, sort: 'name' | 'length' | 'kind' | 'added' = 'name') =>
    findAssets(assets, { ...all, ...filter }, sort, new Set([id(3)]), (assetId) => (assetId === id(2) ? 5 : 1)).map(
      (entry) => entry.name,
    )

  it('sorts names as people count, and by length, kind and age', () => {
    expect(find({})).toEqual(['boats 9.mp4', 'boats 10.mp4', 'song.wav'])
    expect(find({}, 'length')[0]).toBe('song.wav')
    expect(find({}, 'kind')[0]).toBe('song.wav')
    expect(find({}, 'added')[0]).toBe('boats 9.mp4')
  })

  it('filters by kind, label, use and folder, and searches names and notes through every folder', () => {
    expect(find({ kind: 'sound' })).toEqual(['song.wav'])
    expect(find({ label: 'moss' })).toEqual(['boats 9.mp4'])
    expect(find({ use: 'unused' })).toEqual(['boats 9.mp4', 'boats 10.mp4'])
    expect(find({ folderId: null })).toEqual(['boats 9.mp4', 'song.wav'])
    expect(find({ folderId: null, words: 'boats' })).toEqual(['boats 9.mp4', 'boats 10.mp4'])
    expect(find({ words: 'sail boats' })).toEqual(['boats 9.mp4'])
  })

  it('knows the way to a folder, and does not run in circles on a damaged one', () => {
    const folder = (n: number, name: string, parentId: string | null) => ({ id: id(n), name, parentId, order: 'a0' })
    const folders = { [id(90)]: folder(90, 'Quay', null), [id(91)]: folder(91, 'Boats', id(90)) }
    expect(pathOf(folders, id(91)).map((entry) => entry.name)).toEqual(['Quay', 'Boats'])
    expect(foldersIn(Object.values(folders), id(90)).map((entry) => entry.name)).toEqual(['Boats'])
    const loop = { [id(90)]: folder(90, 'Quay', id(91)), [id(91)]: folder(91, 'Boats', id(90)) }
    expect(pathOf(loop, id(91))).toHaveLength(2)
  })
})
