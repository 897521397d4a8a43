import { describe, expect, it } from 'vitest'
import { check, openDocument, SCHEMA_VERSION } from '../src/index'
import { uuid } from './helpers'

/** A document as version 1 wrote it. */
const VERSION_1 = {
  schemaVersion: 1,
  id: uuid(1),
  name: 'Lantern Night',
  assets: {
    [uuid(2)]: {
      id: uuid(2),
      name: 'boats.mp4',
      kind: 'video',
      length: 7_056_000_000,
      picture: { width: 1280, height: 720, rate: { num: 25, den: 1 }, variable: false, alpha: false },
      sounds: [],
    },
  },
  reels: {
    [uuid(3)]: {
      id: uuid(3),
      name: 'Lantern Night',
      order: 'a0',
      format: { width: 1280, height: 720, rate: { num: 25, den: 1 } },
      background: '#000000',
      fit: 'fit',
    },
  },
  tracks: {
    [uuid(4)]: {
      id: uuid(4),
      reelId: uuid(3),
      kind: 'picture',
      purpose: 'picture',
      name: 'Picture 1',
      order: 'a0',
      height: 52,
      hidden: false,
      muted: false,
      solo: false,
      locked: false,
      gain: 0,
    },
  },
  clips: {
    [uuid(5)]: {
      id: uuid(5),
      kind: 'media',
      trackId: uuid(4),
      assetId: uuid(2),
      stream: null,
      start: 0,
      length: 705_600_000,
      head: 0,
      map: { kind: 'constant', source: 0 },
      link: null,
      name: null,
      label: 'moss',
      gain: 0,
      opacity: 0.5,
      fit: null,
      place: { x: 3, y: 0, scale: 1, rotation: 0 },
    },
  },
}

describe('documents of older versions', () => {
  it('open with everything they held', () => {
    const project = openDocument(VERSION_1)
    expect(project.schemaVersion).toBe(SCHEMA_VERSION)
    expect(check(project)).toEqual([])
    expect(project.clips[uuid(5)]).toMatchObject({
      params: { opacity: 50, position: [3, 0] },
      label: 'moss',
      sync: 0,
      group: null,
    })
    expect([project.markers, project.subclips, project.folders]).toEqual([{}, {}, {}])
  })

  it('say which field is damaged, and that a newer one needs a newer program', () => {
    const clip = VERSION_1.clips[uuid(5)]!
    expect(() => openDocument({ ...VERSION_1, clips: { [uuid(5)]: { ...clip, opacity: 7 } } })).toThrow(
      `clips.${uuid(5)}.params`,
    )
    expect(() => openDocument({ ...VERSION_1, schemaVersion: SCHEMA_VERSION + 1 })).toThrow('newer')
  })
})
