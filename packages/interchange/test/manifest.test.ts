import { describe, expect, it } from 'vitest'
import { createProject, type Asset } from '@dusk/timeline'
import { readManifest, writeManifest } from '../src/index'

const id = '00000000-0000-4000-8000-0000000000a1'
const asset: Asset = {
  id,
  name: 'harbour',
  kind: 'sound',
  length: 10,
  picture: null,
  sounds: [],
  folderId: null,
  label: null,
  note: '',
}
const project = {
  ...createProject('Lantern night', { width: 640, height: 360, rate: { num: 25, den: 1 } }),
  assets: { [id]: asset },
}
const media = { [id]: { hash: 'ab'.repeat(32), fileName: 'harbour.wav' } }

describe('the manifest of an archive', () => {
  it('reads back what it wrote', () => {
    expect(readManifest(writeManifest({ project, media }))).toEqual({ project, media })
  })

  it('says what is wrong and where', () => {
    const wrong = (change: object) => () =>
      readManifest(JSON.stringify({ ...JSON.parse(writeManifest({ project, media })), ...change }))
    expect(() => readManifest('{')).toThrow('not JSON')
    expect(wrong({ version: 9 })).toThrow('newer')
    expect(wrong({ media: { [id]: { hash: 'x', fileName: 'a' } } })).toThrow(`media.${id}.hash`)
    expect(wrong({ media: {} })).toThrow('no file for harbour')
    expect(wrong({ project: { ...project, tracks: 4 } })).toThrow('tracks')
  })
})
