import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { afterAll, afterEach, describe, expect, it, onTestFinished, vi } from 'vitest'
import { eq } from 'drizzle-orm'
import { hardwareSchema } from '@dusk/interchange'
import { hardwareArgs, inspectFile, proveHardware } from '@dusk/media'
import { provenHardware, renders, sayHardware, settings as settingRows, type RenderSettings } from '@dusk/store'
import { reelsOf, type Command } from '@dusk/timeline'
import { settingsFor } from '../src/cli'
import { OwnHardware } from '../src/jobs/ownHardware'
import { renderPath, runRender } from '../src/jobs/render'
import { openWorkBench } from './workBench'

const bench = await openWorkBench('hardware')
const { connection, storage } = bench
const { db } = connection
afterAll(bench.close)

/** Lets this process find an ffmpeg whose machine has a chip. */
function withChip(fault = ''): void {
  vi.stubEnv('PATH', `${join(import.meta.dirname, 'chip')}:${process.env.PATH}`)
  vi.stubEnv('DUSK_CHIP', fault)
}
afterEach(() => vi.unstubAllEnvs())

const settings: RenderSettings = {
  ...{ width: 320, height: 180, rate: { num: 30_000, den: 1001 }, quality: 'good', range: null, sound: false },
  hardware: 'h264_vaapi',
}

/** A project of a generated picture, and a render of it that waits. */
async function ask(change: Partial<RenderSettings> = {}): Promise<string> {
  const made = await bench.project()
  const [reel] = reelsOf(made)
  const trackId = Object.values(made.tracks).find(({ kind }) => kind === 'picture')!.id
  const ground = { kind: 'generator', generator: 'plain', settings: { colour: '#ff9e5e' } }
  const generated = [{ ...ground, clipId: randomUUID(), trackId, start: 0, length: 2 * 705_600_000 }]
  const command = { type: 'addGenerated', mode: 'free', generated } as unknown as Command
  await bench.worker().log.append(made.id, 'w', [{ id: randomUUID(), command }])
  const { project } = await bench.worker().log.read(made.id)
  const id = randomUUID()
  const row = { id, projectId: made.id, reelId: reel!.id, name: 'Bars', document: project, place: Date.now() }
  await db
    .insert(renders)
    .values({ ...row, settings: { ...settings, ...change }, state: 'waiting', heartbeatAt: new Date() })
  return id
}
const rowOf = async (id: string) => (await db.select().from(renders).where(eq(renders.id, id)))[0]!

describe('encoders in hardware', () => {
  it('are only found where what they make comes back whole and alike', async () => {
    withChip()
    expect(await proveHardware()).toContain('h264_vaapi')
    for (const fault of ['green', 'short']) {
      vi.unstubAllEnvs()
      withChip(fault)
      expect(await proveHardware(), fault).not.toContain('h264_vaapi')
    }
  })

  it('are asked for on their own scales, in closed groups', () => {
    const rate = { num: 30, den: 1 }
    for (const id of hardwareSchema.options) {
      const good = hardwareArgs(id, { quality: 'good', rate }).encoder.join(' ')
      expect(good).toContain(`-c:v ${id} -g 150 -bf 0`)
      expect(good).not.toBe(hardwareArgs(id, { quality: 'best', rate }).encoder.join(' '))
      expect(hardwareArgs(id, { quality: 'good', rate, bitrate: 4_000_000 }).encoder).toContain('4000000')
    }
  })

  it('are known for as long as their worker says so', async () => {
    await sayHardware(db, 'quay 1', ['hevc_qsv'])
    await sayHardware(db, 'pier 2', ['h264_nvenc', 'hevc_qsv'])
    expect(await provenHardware(db)).toEqual(['h264_nvenc', 'hevc_qsv'])
    const long = { encoders: ['h264_nvenc', 'hevc_qsv'], at: Date.now() - 90_000 }
    await db.update(settingRows).set({ value: long }).where(eq(settingRows.key, 'hardware:pier 2'))
    expect(await provenHardware(db)).toEqual(['hevc_qsv'])
    await sayHardware(db, 'quay 1', [])
    expect(await provenHardware(db)).toEqual([])
    expect(await db.select().from(settingRows)).toHaveLength(1)
  })

  it('make a render by themselves, which others leave to their worker', async () => {
    withChip()
    const id = await ask()
    await sayHardware(db, 'quay 1', ['h264_vaapi'])
    await runRender(bench.worker())
    expect((await rowOf(id)).state).toBe('waiting')
    // It has only just begun, and is still trying its chip.
    const stop = new AbortController()
    onTestFinished(() => stop.abort())
    const owner = { ...bench.worker(), hardware: new OwnHardware(db, stop.signal) }
    expect(owner.hardware.encoders).toEqual([])
    await sayHardware(db, 'quay 1', [])
    await runRender(owner)
    expect(owner.hardware.encoders).toContain('h264_vaapi')
    expect(await rowOf(id)).toMatchObject({ state: 'ready', report: { frames: 60, width: 320 } })
    const { picture } = await inspectFile(renderPath(storage, id, undefined))
    expect(picture).toMatchObject({ codec: 'h264', frames: 60, rate: '30000/1001' })
    // The same frames by processors are other chunks.
    const plain = await ask({ hardware: null })
    await runRender(owner)
    expect((await rowOf(plain)).report).toMatchObject({ reused: 0 })
  })

  it('are missed in words when their worker is gone', async () => {
    await sayHardware(db, 'quay 1', [])
    const id = await ask({ hardware: 'h264_qsv' })
    await runRender(bench.worker())
    const { state, message } = await rowOf(id)
    expect(state).toBe('failed')
    expect(message).toContain('No worker can encode by the graphics chip (QSV) any more')
  })

  it('are asked for on the command line, or refused there in words', async () => {
    const made = await bench.project()
    const ask = (options: Parameters<typeof settingsFor>[2]) => settingsFor(made, reelsOf(made)[0]!.id, options)
    expect(ask({ hardware: 'h264_qsv' })).toMatchObject({ hardware: 'h264_qsv' })
    expect(() => ask({ hardware: 'warp' })).toThrow('--hardware is one of h264_vaapi')
    expect(() => ask({ hardware: 'h264_qsv', format: 'mp4-h265' })).toThrow('makes other pictures than mp4-h265')
    expect(() => ask({ hardware: 'h264_qsv', copy: true })).toThrow('leave out --fit, --copy and --speed')
  })
})
