import { describe, expect, it } from 'vitest'
import { createCanvas } from '@napi-rs/canvas'
import {
  applyCommand,
  check,
  createProject,
  planFrame,
  planSound,
  reelLength,
  reelsOf,
  type AssetFacts,
} from '@dusk/timeline'
import { demoProjects } from '../src/index'
import { EFFECTS } from '../src/audio/effects'
import { nightSong, SONG_BPM } from '../src/audio/music'
import { scenes } from '../src/make'

describe('the demo’s footage', () => {
  it('is at least eight scenes of 4 to 15 seconds, in mixed sizes and rates', () => {
    const all = scenes()
    expect(all.length).toBeGreaterThanOrEqual(8)
    for (const scene of all) {
      expect(scene.seconds).toBeGreaterThanOrEqual(4)
      expect(scene.seconds).toBeLessThanOrEqual(15)
    }
    expect(new Set(all.map((scene) => `${scene.width}x${scene.height}`)).size).toBeGreaterThanOrEqual(3)
    expect(new Set(all.map((scene) => scene.rate.num / scene.rate.den)).size).toBeGreaterThanOrEqual(3)
  })

  it('draws the same frame for the same time, and another for another', () => {
    const [scene] = scenes()
    const frame = (t: number) => {
      const canvas = createCanvas(scene!.width / 4, scene!.height / 4)
      const context = canvas.getContext('2d')
      context.scale(0.25, 0.25)
      scene!.draw(context, t)
      return Buffer.from(canvas.data())
    }
    expect(Buffer.compare(frame(1), frame(1))).toBe(0)
    expect(Buffer.compare(frame(1), frame(2))).not.toBe(0)
  })

  it('has six effects that are heard and do not clip much, and a song with a beat', () => {
    expect(Object.keys(EFFECTS)).toHaveLength(6)
    for (const [name, make] of Object.entries(EFFECTS)) {
      const peak = make().reduce((high, value) => Math.max(high, Math.abs(value)), 0)
      expect(peak, name).toBeGreaterThan(0.05)
      expect(peak, name).toBeLessThan(1.6)
    }
    const song = nightSong()
    // More happens in the 60 ms after a beat than in the 60 ms before one.
    const energy = (at: number) => {
      let sum = 0
      for (let i = 0; i < 2880; i++) sum += song[(Math.round(at * 48_000) + i) * 2]! ** 2
      return sum
    }
    const beats = Array.from({ length: 40 }, (_, i) => 20 + (i * 60) / SONG_BPM)
    const ahead = beats.filter((at) => energy(at) > energy(at - 0.06)).length
    expect(ahead).toBeGreaterThan(32)
  })
})

describe('the demo’s projects', () => {
  it('arrange without a refusal into reels with picture and sound throughout', () => {
    const lengths = new Map(scenes().map((scene) => [scene.name, scene]))
    for (const demo of demoProjects()) {
      let project = createProject(demo.name, demo.format)
      for (const file of demo.files) {
        const scene = lengths.get(file)
        const second = 705_600_000
        const kind: AssetFacts['kind'] = scene ? 'video' : /\.(png|jpg)$/.test(file) ? 'still' : 'sound'
        const long =
          file === 'night-song.wav' ? 60 : file === 'keeper-clean-voice.wav' ? 16.7 : file === 'bell.wav' ? 3.5 : 3
        const length = kind === 'still' ? 0 : Math.round((scene?.seconds ?? long) * second)
        const asset: AssetFacts = {
          id: crypto.randomUUID(),
          name: file,
          kind,
          length,
          picture:
            kind === 'sound'
              ? null
              : {
                  width: scene?.width ?? 900,
                  height: scene?.height ?? 900,
                  rate: scene?.rate ?? null,
                  variable: false,
                  alpha: file.endsWith('.png'),
                },
          sounds: kind === 'still' ? [] : [{ channels: 2, length, title: '' }],
        }
        project = applyCommand(project, { type: 'addAsset', asset }, crypto.randomUUID()).project
      }
      const ids = new Map(Object.values(project.assets).map((asset) => [asset.name, asset.id]))
      for (const command of demo.arrange(project, (file) => ids.get(file)!))
        project = applyCommand(project, command, crypto.randomUUID()).project
      expect(check(project)).toEqual([])
      const reel = reelsOf(project)[0]!
      const length = reelLength(project, reel.id)
      for (let part = 0; part < 20; part++) {
        const tick = Math.floor((length * (part + 0.5)) / 20)
        expect(planFrame(project, reel.id, tick, reel.format).layers.length, `${demo.name} at ${part}`).toBeGreaterThan(
          0,
        )
        expect(planSound(project, reel.id, tick, tick + 14_700).pieces.length).toBeGreaterThan(0)
      }
    }
  })
})
