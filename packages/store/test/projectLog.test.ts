import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { eq } from 'drizzle-orm'
import { check, createProject, tracksOf, type Command, type Project } from '@dusk/timeline'
import {
  connect,
  listen,
  projectEdits,
  ProjectLog,
  ProjectMissing,
  projects,
  type Connection,
  type StoreEvent,
} from '../src/index'

let connection: Connection

beforeAll(() => {
  const url = process.env.DATABASE_URL
  if (!url) throw new Error('These tests need a database: run them with ./dusk test.')
  connection = connect(url, 6)
})
afterAll(() => connection.close())

async function fresh(): Promise<{ log: ProjectLog; project: Project }> {
  const log = new ProjectLog(connection)
  const project = createProject('Lantern log', { width: 640, height: 360, rate: { num: 25, den: 1 } })
  await log.create(project)
  return { log, project }
}

const rename = (name: string): { id: string; command: Command } => ({
  id: randomUUID(),
  command: { type: 'renameProject', name },
})

describe('the edit log', () => {
  it('numbers edits, keeps them, and gives the document back in another process', async () => {
    const { log, project } = await fresh()
    const track = tracksOf(project, Object.keys(project.reels)[0]!)[0]!
    const { seq, outcomes } = await log.append(project.id, 'w', [
      rename('One'),
      { id: randomUUID(), command: { type: 'setTrack', trackId: track.id, set: { locked: true } } },
    ])
    expect(seq).toBe(2)
    expect(outcomes.map((outcome) => 'seq' in outcome && outcome.seq)).toEqual([1, 2])
    const other = await new ProjectLog(connection).read(project.id)
    expect(other.seq).toBe(2)
    expect(other.project.name).toBe('One')
    expect(other.project.tracks[track.id]!.locked).toBe(true)
    expect((await log.since(project.id, 1)).map((entry) => entry.patches.length)).toEqual([1])
  })

  it('opens what an older version kept, by what came of its edits and not by doing them again', async () => {
    const { log, project } = await fresh()
    const trackId = Object.keys(project.tracks)[0]!
    const sent = {
      id: randomUUID(),
      command: { type: 'setTrack', trackId, set: { name: 'Quay', locked: true } } as Command,
    }
    await log.append(project.id, 'w', [rename('Old'), sent])
    // A command of before, as this version would refuse it or take it otherwise.
    await connection.db
      .update(projectEdits)
      .set({ command: { type: 'setTrack', trackId, set: { name: 'Otherwise' } } as Command })
      .where(eq(projectEdits.id, sent.id))
    const { project: opened } = await new ProjectLog(connection).read(project.id)
    expect(opened.tracks[trackId]).toMatchObject({ name: 'Quay', locked: true })
    expect(opened.name).toBe('Old')

    // A document of version 2 with an edit of version 2: both are brought up, and kept so.
    const old = structuredClone(opened) as unknown as Record<string, Record<string, Record<string, unknown>>>
    delete old.transitions
    for (const track of Object.values(old.tracks!)) delete track.params
    for (const reel of Object.values(old.reels!)) delete reel.backgroundFill
    const before = { ...old.tracks![trackId]!, name: 'Before' }
    await connection.db
      .update(projects)
      .set({
        document: { ...old, tracks: { ...old.tracks, [trackId]: before }, schemaVersion: 2 } as never,
        documentSeq: 1,
      })
      .where(eq(projects.id, project.id))
    await connection.db
      .update(projectEdits)
      .set({
        patches: null,
        version: 3,
        undo: [{ kind: 'tracks', id: trackId, from: old.tracks![trackId], to: before }] as never,
      })
      .where(eq(projectEdits.id, sent.id))
    await connection.db
      .update(projectEdits)
      .set({ patches: null, version: 3, undo: [], nameBefore: 'Lantern log' })
      .where(eq(projectEdits.seq, 1))
    const later = new ProjectLog(connection)
    expect((await later.read(project.id)).project).toEqual(opened)
    // What it did can still be taken back, by one step and to the beginning.
    const { patches } = (await later.patches(project.id, sent.id))!
    expect(patches).toMatchObject([
      { op: 'fields', id: trackId, fields: [{ path: ['name'], from: 'Before', to: 'Quay' }] },
    ])
    const back = await later.revert(project.id, 0)
    await later.append(project.id, 'w', [{ id: randomUUID(), command: back }])
    const begun = (await later.read(project.id)).project
    expect(begun.name).toBe('Lantern log')
    expect(begun.tracks[trackId]!.name).toBe('Before')
    const [row] = await connection.db.select().from(projects).where(eq(projects.id, project.id))
    expect(row).toMatchObject({ documentSeq: 2, document: { schemaVersion: opened.schemaVersion } })
  })

  it('opens a document with a damaged part without it, and names it', async () => {
    const { project } = await fresh()
    const [trackId, other] = Object.keys(project.tracks)
    const broken = structuredClone(project) as unknown as { tracks: Record<string, Record<string, unknown>> }
    broken.tracks[trackId!]!.height = 'very high'
    await connection.db
      .update(projects)
      .set({ document: broken as never })
      .where(eq(projects.id, project.id))
    const { project: opened, leftOut } = await new ProjectLog(connection).read(project.id)
    expect(Object.keys(opened.tracks)).not.toContain(trackId)
    expect(opened.tracks[other!]).toEqual(project.tracks[other!])
    expect(leftOut).toMatchObject([{ kind: 'tracks', id: trackId, words: expect.stringContaining('height') }])
    expect(check(opened)).toEqual([])
  })

  it('takes nothing into a document that its schema does not hold', async () => {
    const { log, project } = await fresh()
    const asset = {
      ...{ id: randomUUID(), name: '   ', kind: 'video', length: 1 },
      picture: { width: 64, height: 36, rate: { num: 480_000, den: 1001 }, variable: false, alpha: false },
      sounds: [],
    }
    const { outcomes } = await log.append(project.id, 'w', [
      { id: randomUUID(), command: { type: 'addAsset', asset } as never },
    ])
    expect(outcomes).toMatchObject([{ rule: 'shape', refused: expect.stringContaining('asset') }])
    expect((await log.read(project.id)).project.assets).toEqual({})
  })

  it('keeps what a push of thousands of clips came to in the room of their ids', async () => {
    const { log, project } = await fresh()
    const trackId = tracksOf(project, Object.keys(project.reels)[0]!)[0]!.id
    const pieces = Array.from({ length: 2000 }, (_, i) => ({
      ...{ clipId: randomUUID(), trackId, stream: null, link: null, source: 0 },
      ...{ start: i * 28_224_000, length: 28_224_000 },
    }))
    const card = { id: randomUUID(), name: 'card', kind: 'still' as const, length: 0, sounds: [] }
    const picture = { width: 64, height: 36, rate: null, variable: false, alpha: false }
    await log.append(project.id, 'w', [
      { id: randomUUID(), command: { type: 'addAsset', asset: { ...card, picture } } },
      {
        id: randomUUID(),
        command: {
          type: 'place',
          mode: 'free',
          pieces: pieces.map((piece) => ({ ...piece, assetId: card.id })),
        } as never,
      },
    ])
    const ripple = randomUUID()
    const first = pieces[0]!
    await log.append(project.id, 'w', [
      {
        id: ripple,
        command: { type: 'trim', clipId: first.clipId, edge: 'end', to: 56_448_000, mode: 'ripple' } as never,
      },
    ])
    const move = randomUUID()
    const last = pieces.at(-1)!
    await log.append(project.id, 'w', [
      { id: move, command: { type: 'move', clipIds: [last.clipId], by: 28_224_000, mode: 'free' } as never },
    ])
    const sizes = await connection.sql<{ id: string; bytes: number }[]>`
      select id, length(patches::text) + length(command::text) as bytes from project_edits
      where id in (${ripple}, ${move})`
    const bytes = Object.fromEntries(sizes.map((row) => [row.id, Number(row.bytes)]))
    expect(bytes[ripple]).toBeLessThan(2000 * 50)
    expect(bytes[move]).toBeLessThan(1000)
  })

  it('refuses what does not apply, alone', async () => {
    const { log, project } = await fresh()
    const bad = { id: randomUUID(), command: { type: 'removeTrack', trackId: randomUUID() } as Command }
    const { outcomes } = await log.append(project.id, 'w', [rename('A'), bad, rename('B')])
    expect(outcomes.map((outcome) => ('refused' in outcome ? outcome.rule : 'seq' in outcome && outcome.seq))).toEqual([
      1,
      'missing',
      2,
    ])
  })

  it('carries a command out once, however often it is sent', async () => {
    const { log, project } = await fresh()
    const sent = rename('Once')
    await log.append(project.id, 'w', [sent])
    await log.append(project.id, 'w', [rename('Later')])
    const again = await log.append(project.id, 'w', [sent])
    expect(again.outcomes).toEqual([{ id: sent.id, seq: 1 }])
    expect((await log.read(project.id)).project.name).toBe('Later')
  })

  it('stays in order when two processes write at once, and both see the same document', async () => {
    const { log, project } = await fresh()
    const other = new ProjectLog(connection)
    const reelId = Object.keys(project.reels)[0]!
    const add = (): { id: string; command: Command } => ({
      id: randomUUID(),
      command: { type: 'addTrack', reelId, purpose: 'music' },
    })
    await Promise.all(Array.from({ length: 20 }, (_, i) => (i % 2 ? log : other).append(project.id, 'w', [add()])))
    const [a, b] = [await log.read(project.id), await other.read(project.id)]
    expect(a.seq).toBe(20)
    expect(a.project).toEqual(b.project)
    expect(Object.keys(a.project.tracks)).toHaveLength(25)
  })

  it('writes snapshots, from which the rest is replayed', async () => {
    const { log, project } = await fresh()
    for (let i = 0; i < 110; i++) await log.append(project.id, 'w', [rename(`Name ${i}`)])
    const [row] = await connection.db.select().from(projects).where(eq(projects.id, project.id))
    expect(row!.documentSeq).toBe(100)
    expect((await new ProjectLog(connection).read(project.id)).project.name).toBe('Name 109')
  })

  it('tells other processes, and knows no deleted project', async () => {
    const { log, project } = await fresh()
    const heard: StoreEvent[] = []
    const stop = await listen(connection, (event) => heard.push(event))
    await log.append(project.id, 'w', [rename('Told')])
    await expect.poll(() => heard).toContainEqual({ kind: 'edit', projectId: project.id, seq: 1 })
    await stop()
    await connection.db.update(projects).set({ deletedAt: new Date() }).where(eq(projects.id, project.id))
    await expect(log.read(project.id)).rejects.toBeInstanceOf(ProjectMissing)
    await expect(log.append(project.id, 'w', [rename('x')])).rejects.toBeInstanceOf(ProjectMissing)
  })

  it('lists what was done, newest first and page by page', async () => {
    const { log, project } = await fresh()
    await log.append(project.id, 'w', ['A', 'B', 'C'].map(rename))
    const newest = await log.history(project.id, null, 2)
    expect(newest.map((entry) => [entry.seq, entry.label, entry.windowId])).toEqual([
      [3, 'Renamed the project to C', 'w'],
      [2, 'Renamed the project to B', 'w'],
    ])
    expect((await log.history(project.id, 2)).map((entry) => entry.seq)).toEqual([1])
  })

  it('finds the way back to any point, by which the document is exactly as it was', async () => {
    const { log, project } = await fresh()
    const reelId = Object.keys(project.reels)[0]!
    const [first, second] = tracksOf(project, reelId)
    const steps: Command[] = [
      { type: 'setTrack', trackId: first!.id, set: { locked: true } },
      { type: 'renameProject', name: 'Later' },
      { type: 'removeTrack', trackId: second!.id },
      { type: 'addTrack', reelId, purpose: 'voice' },
      { type: 'setTrack', trackId: first!.id, set: { locked: false, name: 'Front' } },
    ]
    const states: Project[] = [project]
    for (const command of steps) {
      await log.append(project.id, 'w', [{ id: randomUUID(), command }])
      states.push((await log.read(project.id)).project)
    }
    for (const seq of [3, 0, 5, 1]) {
      const command = await log.revert(project.id, seq)
      const { outcomes } = await log.append(project.id, 'w', [{ id: randomUUID(), command }])
      expect(outcomes[0]).toHaveProperty('seq')
      expect((await log.read(project.id)).project).toEqual(states[seq])
    }
    expect((await log.history(project.id, null, 1))[0]!.label).toMatch(/^Went back to: Locked a track/)
  })
})
