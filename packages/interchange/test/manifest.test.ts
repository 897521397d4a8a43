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
    expect(wrong({ project: { ...project, tracks: 4 } })).toThrow('tracks')
  })

  it('may lack the file of a source, as where it was missing when the archive was saved', () => {
    expect(readManifest(writeManifest({ project, media: {} })).media).toEqual({})
  })

  it('refuses a document that breaks a rule, and texts that can’t be kept', () => {
    const [track] = Object.values(project.tracks)
    const astray = { ...project, tracks: { [track!.id]: { ...track!, reelId: id } } }
    expect(() => readManifest(writeManifest({ project: astray, media }))).toThrow(
      /breaks a rule: .* belongs to a reel that is no longer there/,
    )
    const named = (name: string) => () => readManifest(writeManifest({ project: { ...project, name }, media }))
    expect(named('a\0b')).toThrow('project.name holds the character U+0000')
    expect(named('a\ud800b')).toThrow('project.name holds half of a character')
    expect(named('lanterns 🏮')().project.name).toBe('lanterns 🏮')
  })
})
