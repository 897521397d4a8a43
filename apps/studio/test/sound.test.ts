import { describe, expect, it, vi } from 'vitest'
import { flushPromises } from '@vue/test-utils'
import type { FittedLength } from '@dusk/sound'
import { clipsOn, isAnimated, tracksOf, valueAt, type Animated, type Clip } from '@dusk/timeline'
import { dbAt, yOf } from '~/features/sound/levelScale'
import { duckLine, joinSpans } from '~/features/sound/duck'
import DuckTools from '~/features/sound/DuckTools.vue'
import EffectStack from '~/features/sound/EffectStack.vue'
import SoundDrawer from '~/features/sound/SoundDrawer.vue'
import LoudnessTools from '~/features/sound/LoudnessTools.vue'
import HeadMixer from '~/features/sound/HeadMixer.vue'
import PeakMeter from '~/features/sound/PeakMeter.vue'
import MusicLength from '~/features/sound/MusicLength.vue'
import { fittedWords } from '~/features/sound/useMusicLength'
import { useSound } from '~/features/sound/soundStore'
import { loudnessSentence, useLoudness } from '~/features/sound/useLoudness'
import { useAction } from '~/features/registry/feature'
import { openDesk } from './tools/desk'
import { button, typeNumber } from './tools/fields'
import { HARBOUR, SECOND, SONG } from './tools/server'

/** A desk with a voice from second 0 to 4 and music from 0 to 20. */
async function soundDesk() {
  const opened = await openDesk()
  const { project } = opened
  const tracks = tracksOf(project.document!, project.reelId)
  const [voice, music] = ['voice', 'music'].map((purpose) => tracks.find((track) => track.purpose === purpose)!)
  const place = (trackId: string, assetId: string, length: number) => ({
    clipId: crypto.randomUUID(),
    trackId,
    assetId,
    stream: 0,
    start: 0,
    length: length * SECOND,
    source: 0,
    link: null,
  })
  project.perform({
    type: 'place',
    mode: 'free',
    pieces: [place(voice!.id, HARBOUR.id, 4), place(music!.id, SONG.id, 20)],
  })
  const clip = (trackId: string): Clip => clipsOn(project.document!, trackId)[0]!
  return { ...opened, voice: voice!, music: music!, voiceClip: () => clip(voice!.id), musicClip: () => clip(music!.id) }
}
const effectsOf = (d: Awaited<ReturnType<typeof soundDesk>>, id: string) =>
  Object.values(d.project.document!.effects)
    .filter((effect) => effect.ownerId === id)
    .sort((a, b) => (a.order < b.order ? -1 : 1))

describe('the Sound drawer', () => {
  it('puts an effect on what is selected: sounds, a track, else the reel', async () => {
    const d = await soundDesk()
    const drawer = d.show(SoundDrawer)
    const click = (name: string) =>
      drawer
        .findAll('button')
        .find((button) => button.text() === name)!
        .trigger('click')
    await click('Telephone')
    expect(effectsOf(d, d.project.reelId).map(({ kind }) => kind)).toEqual(['device'])
    d.desk.selectTrack(d.voice.id)
    await click('Even voice')
    expect(effectsOf(d, d.voice.id)[0]).toMatchObject({ kind: 'compressor', settings: { ratio: 3 } })
    d.desk.select([d.voiceClip().id], d.project.document)
    await flushPromises()
    expect(drawer.text()).toContain('Goes on')
    await click('Chapel')
    expect(effectsOf(d, d.voiceClip().id).map(({ kind }) => kind)).toEqual(['reverb'])
  })

  it('finds by name, family and what an effect is for', async () => {
    const d = await soundDesk()
    const drawer = d.show(SoundDrawer)
    const names = () => drawer.findAll('h3').map((entry) => entry.text())
    await drawer.find('input[type=search]').setValue('hum')
    expect(names()).toEqual(['Hum removal'])
    await drawer.find('input[type=search]').setValue('cave')
    expect(names()).toEqual(['Reverb'])
    await drawer.find('input[type=search]').setValue('zzz')
    expect(drawer.text()).toContain('Nothing is called that')
  })

  it('lets a preset be heard while the pointer rests on it, and takes it back', async () => {
    const d = await soundDesk()
    d.desk.select([d.voiceClip().id], d.project.document)
    const drawer = d.show(SoundDrawer)
    const tile = drawer.findAll('li').find((entry) => entry.text() === 'Telephone')!
    await tile.trigger('pointerenter')
    await new Promise((resolve) => setTimeout(resolve, 300))
    const heard = d.player.tried.at(-1) as { effects: Record<string, { kind: string }> }
    expect(Object.values(heard.effects).map(({ kind }) => kind)).toEqual(['device'])
    expect(d.player.playing.value).toBe(true)
    await tile.trigger('pointerleave')
    expect(d.player.tried.at(-1)).toBeNull()
    expect(d.player.playing.value).toBe(false)
    expect(d.project.document!.effects).toEqual({})
  })
})

describe('a stack of effects', () => {
  it('is switched, ordered, set and emptied, each a step to undo', async () => {
    const d = await soundDesk()
    const add = (kind: string) =>
      d.project.perform({
        type: 'addEffects',
        owner: 'track',
        ownerIds: [d.voice.id],
        effects: [{ domain: 'sound', kind, settings: {}, strength: 100 }],
      })
    add('noise')
    add('reverb')
    const stack = d.show(EffectStack, { owner: 'track', ownerId: d.voice.id, time: 0, heardOn: d.voice.id })
    const kinds = () => effectsOf(d, d.voice.id).map(({ kind }) => kind)
    await stack.findAll('[aria-label="Later"]')[0]!.trigger('click')
    expect(kinds()).toEqual(['reverb', 'noise'])
    await stack.find('[aria-label="Reverb on"]').trigger('change')
    expect(effectsOf(d, d.voice.id)[0]!.on).toBe(false)
    await stack.find('[aria-label="Strength of Reverb"]').setValue(40)
    expect(effectsOf(d, d.voice.id)[0]!.strength).toBe(40)
    await stack
      .findAll('button')
      .find((button) => button.text() === 'Noise reduction')!
      .trigger('click')
    expect(d.player.watched).toBe(d.voice.id)
    await stack
      .findAll('button')
      .find((button) => button.text() === 'Learn the noise')!
      .trigger('click')
    await flushPromises()
    expect(effectsOf(d, d.voice.id)[1]!.settings.print).toContain('-70')
    await button(stack, 'Keep as a preset').trigger('click')
    await vi.waitFor(() => expect(d.said()).toContain('Kept as “Noise reduction 1”'))
    const [made] = Object.values(useSound().preferences.presets)
    await useSound().renamePreset(made!.id, 'The cellar')
    expect(Object.values(useSound().preferences.presets)).toMatchObject([
      { kind: 'noise', name: 'The cellar', settings: { print: expect.stringContaining('-70') } },
    ])
    await stack.find('[aria-label="Remove Reverb"]').trigger('click')
    expect(kinds()).toEqual(['noise'])
    for (let i = 0; i < 5; i++) d.project.undo()
    expect(kinds()).toEqual(['noise', 'reverb'])
    expect(effectsOf(d, d.voice.id)[1]).toMatchObject({ on: true, strength: 100 })
    stack.unmount()
    expect(d.player.watched).toBeNull()
  })
})

describe('loudness', () => {
  it('brings each sound to the target, all to the first, and says what cannot be reached', async () => {
    const d = await soundDesk()
    const [a, b] = [d.voiceClip().id, d.musicClip().id]
    d.player.loudness = { [a]: -30, [b]: -12 }
    const tools = d.show(LoudnessTools, { sounds: [d.voiceClip(), d.musicClip()] })
    const click = async (name: string) => {
      await tools
        .findAll('button')
        .find((button) => button.text() === name)!
        .trigger('click')
      await flushPromises()
    }
    await click('To the target')
    // The voice to −16, the music to −20.
    expect([d.voiceClip().gain, d.musicClip().gain]).toEqual([14, -8])
    d.project.undo()
    await click('Like the first')
    expect([d.voiceClip().gain, d.musicClip().gain]).toEqual([0, -18])
    d.project.undo()
    d.player.loudness = { [a]: -60, [b]: null }
    await click('To the target')
    expect([d.voiceClip().gain, d.musicClip().gain]).toEqual([24, 0])
    expect(d.said()).toContain('+24 dB')
  })

  it('has a target for what a track is for', async () => {
    const d = await soundDesk()
    const tools = d.show(LoudnessTools, { sounds: [d.musicClip()] })
    await vi.waitFor(() => expect(tools.text()).toContain('Target, music'))
    await useSound().setTarget('music', -25)
    expect(useSound().preferences.targets).toMatchObject({ voice: -16, music: -25 })
    d.player.loudness = { [d.musicClip().id]: -20 }
    d.within(() => useLoudness().bringToTarget([d.musicClip().id]))
    await vi.waitFor(() => expect(d.musicClip().gain).toBe(-5))
  })

  it('is said in a plain sentence', () => {
    expect(loudnessSentence(-18, -3)).toBe('4 LU quieter than most upload places play.')
    expect(loudnessSentence(-14.4, -3)).toBe('As loud as most upload places play.')
    expect(loudnessSentence(-9, 0.4)).toContain('louder')
    expect(loudnessSentence(-9, 0.4)).toContain('limiter')
    expect(loudnessSentence(null, -90)).toContain('Nothing loud enough')
  })
})

describe('music giving way', () => {
  const settings = { amount: 12, attack: 200, hold: 300, release: 500 }
  const ms = (n: number) => n * 705_600

  it('goes down before a word and up after it, and stays down over short pauses', () => {
    const clip = { start: 0, length: 20 * SECOND, head: 0 }
    const spoken = [
      { from: 2 * SECOND, to: 3 * SECOND },
      { from: 3.4 * SECOND, to: 5 * SECOND },
      { from: 12 * SECOND, to: 13 * SECOND },
    ]
    const line = duckLine(clip, spoken, settings)
    const at = (seconds: number) => valueAt(line, Math.round(seconds * SECOND))
    expect([at(1.7), at(2.5), at(3.2), at(5.2), at(5.9), at(11), at(12.5), at(19)].map(Math.round)).toEqual([
      0, -12, -12, -12, 0, 0, -12, 0,
    ])
    expect(isAnimated(line) && line.keys.length).toBe(8)
    expect(duckLine(clip, [], settings)).toBe(0)
    expect(
      joinSpans(
        [
          { from: 5, to: 6 },
          { from: 0, to: 2 },
          { from: 3, to: 4 },
        ],
        1,
      ),
    ).toEqual([{ from: 0, to: 6 }])
  })

  it('is in clip time: a clip that was trimmed and moved gives way at the same words', () => {
    const clip = { start: 10 * SECOND, length: 5 * SECOND, head: 3 * SECOND }
    const line = duckLine(clip, [{ from: 12 * SECOND, to: 13 * SECOND }], settings)
    expect(valueAt(line, 3 * SECOND + 2.5 * SECOND)).toBe(-12)
    expect(valueAt(line, 3 * SECOND)).toBe(0)
    expect(isAnimated(line) && line.keys[0]!.at).toBe(5 * SECOND - ms(200))
  })

  it('goes as far down as the person wants', async () => {
    const d = await soundDesk()
    d.player.spoken = [{ from: SECOND, to: 3 * SECOND }]
    const tools = d.show(DuckTools)
    await typeNumber(tools, 'Down by', '20')
    await flushPromises()
    await button(tools, 'Give way to the voice').trigger('click')
    await flushPromises()
    await flushPromises()
    expect(valueAt(d.musicClip().params.level as Animated<number>, 2 * SECOND)).toBe(-20)
  })

  it('is written on the music as a line that can be changed, and made again', async () => {
    const d = await soundDesk()
    d.player.spoken = [{ from: SECOND, to: 3 * SECOND }]
    d.within(() => useAction('sound.duck'))()
    await flushPromises()
    await flushPromises()
    const line = d.musicClip().params.level as Animated<number>
    expect(valueAt(line, 2 * SECOND)).toBe(-12)
    expect(d.voiceClip().params.level).toBeUndefined()
    d.player.spoken = []
    d.within(() => useAction('sound.duck'))()
    await flushPromises()
    await flushPromises()
    expect(valueAt((d.musicClip().params.level ?? 0) as Animated<number>, 2 * SECOND)).toBe(0)
  })
})

describe('the mixer on the heads of tracks', () => {
  it('sets gain and pan, and shows what passes through the track', async () => {
    const d = await soundDesk()
    const head = d.show(HeadMixer, { track: d.voice, height: 60 })
    await head.find('[aria-label="Gain of Voice"]').setValue(-6)
    await head.find('[aria-label="Pan of Voice"]').setValue(25)
    expect(d.project.document!.tracks[d.voice.id]).toMatchObject({ gain: -6, params: { pan: 25 } })
    const reading = { left: 0.5, right: 1.2, rms: 0.2 }
    d.player.meters.value = { tracks: { [d.voice.id]: reading } } as never
    await flushPromises()
    expect(head.find('[role=meter]').attributes('aria-valuenow')).toBe('2')
  })
})

describe('the scale of level lines', () => {
  it('goes there and back', () => {
    for (const height of [25, 60, 200])
      for (const db of [24, 6, 0, -6, -20, -50]) expect(dbAt(yOf(db, height), height)).toBeCloseTo(db, 6)
    expect(dbAt(1000, 60)).toBe(-96)
    expect(yOf(-96, 60)).toBe(yOf(-60, 60))
  })
})

describe('music to a length', () => {
  it('is put together from what was found, and again from its stretches', async () => {
    const d = await soundDesk()
    const asked: { from: number; to: number; target: number }[] = []
    d.player.fitted = (wanted) => {
      asked.push(wanted)
      const half = Math.round(wanted.target / 2)
      return {
        parts: [
          { from: wanted.from, to: wanted.from + half },
          { from: wanted.to - half, to: wanted.to },
        ],
        ...{ crossfade: 1920, fadeOut: 0, manner: 'matched' as const },
      }
    }
    const tools = d.show(MusicLength, { sounds: [d.musicClip()] })
    await typeNumber(tools, 'As long as', '12')
    await button(tools, 'Bring it to that').trigger('click')
    await vi.waitFor(() => expect(d.on('Music')).toHaveLength(2))
    expect(asked).toMatchObject([{ from: 0, to: 20 * 48_000, target: 12 * 48_000 }])
    expect(d.frames('Music')).toEqual([
      [0, 180],
      [180, 180],
    ])
    expect(d.said()).toContain('Joined in one place')
    // Its own end stays, so all that it came from may be used again.
    const again = d.show(MusicLength, { sounds: [...d.on('Music')] })
    await typeNumber(again, 'As long as', '16')
    await button(again, 'Bring it to that').trigger('click')
    await vi.waitFor(() => expect(asked).toHaveLength(2))
    expect(asked[1]).toMatchObject({ from: 0, to: 20 * 48_000, target: 16 * 48_000 })
    await vi.waitFor(() => expect(d.frames('Music')[0]).toEqual([0, 240]))
    d.project.undo()
    d.project.undo()
    expect(d.frames('Music')).toEqual([[0, 600]])
  })

  it('says what was done when music is never alike', () => {
    const parts = [
      { from: 0, to: 10 },
      { from: 5, to: 20 },
    ]
    const words = (manner: FittedLength['manner']) => fittedWords({ parts, manner, crossfade: 0, fadeOut: 0 }, 0)
    expect(words('looped')).toContain('begins again in one place')
    expect(words('faded')).toContain('faded out')
    expect(fittedWords({ parts, manner: 'matched', crossfade: 0, fadeOut: 0 }, SECOND / 2)).toContain('0.50 s before')
  })
})

describe('the light of a meter', () => {
  const reading = (left: number, right = left) => ({ left, right, rms: left / 2 })

  it('stays on once a peak was beyond full scale, until it is clicked or the reel is played again', async () => {
    const d = await soundDesk()
    const meter = d.show(PeakMeter, { reading: reading(0.9), label: 'Level of the reel' })
    const lit = () => meter.get('button').attributes('data-clipped')
    await meter.setProps({ reading: reading(1) })
    expect(lit()).toBe('false')
    await meter.setProps({ reading: reading(0.2, 1.1) })
    await meter.setProps({ reading: reading(0.1) })
    expect(lit()).toBe('true')
    await meter.get('button').trigger('click')
    expect(lit()).toBe('false')
    await meter.setProps({ reading: reading(1.3) })
    await meter.setProps({ reading: null })
    expect(lit()).toBe('true')
    await meter.setProps({ reading: reading(0.3) })
    expect(lit()).toBe('false')
    meter.unmount()
  })
})
