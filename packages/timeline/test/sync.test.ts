import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { check, commandSchema, CommandRefused, SyncedDocument, type Command, type LoggedEdit } from '../src/index'
import { desk, f, HARBOUR, placePair, uuid } from './helpers'

/** A server in one class: applies in order of arrival, refuses what does not apply. */
class Log {
  readonly entries: LoggedEdit[] = []
  readonly document: SyncedDocument
  constructor(project: ReturnType<typeof desk>['project']) {
    this.document = new SyncedDocument(project, 0)
  }
  send(sent: { id: string; command: Command }): boolean {
    if (this.entries.some((entry) => entry.id === sent.id)) return true
    let patches
    try {
      ;({ patches } = this.document.perform(sent))
    } catch (error) {
      if (error instanceof CommandRefused) return false
      throw error
    }
    const entry = { id: sent.id, patches, seq: this.entries.length + 1 }
    this.entries.push(entry)
    this.document.receive([entry])
    return true
  }
}

let ids = 0x7000_0000
const fresh = () => uuid((ids += 64))

function placing(d: ReturnType<typeof desk>, at: number, mode: 'free' | 'insert' | 'over'): Command {
  return commandSchema.parse({
    type: 'place',
    mode,
    pieces: [
      {
        clipId: fresh(),
        trackId: d.picture1.id,
        assetId: HARBOUR,
        stream: null,
        start: f(at),
        length: f(20),
        source: 0,
        link: null,
      },
    ],
  })
}

describe('a document shared by two windows', () => {
  it('shows an own edit at once and keeps it when it is confirmed', () => {
    const d = desk()
    const log = new Log(d.project)
    const mine = new SyncedDocument(d.project, 0)
    const sent = { id: fresh(), command: placing(d, 0, 'free') }
    mine.perform(sent)
    const shown = mine.project
    expect(mine.pending).toHaveLength(1)
    log.send(sent)
    expect(mine.receive(log.entries)).toEqual([])
    expect(mine.project).toEqual(shown)
    expect(mine.pending).toHaveLength(0)
  })

  it('settles a clash by the log and says which edit was lost', () => {
    const d = desk()
    const log = new Log(d.project)
    const mine = new SyncedDocument(d.project, 0)
    const theirs = { id: fresh(), command: placing(d, 10, 'free') }
    const own = { id: fresh(), command: placing(d, 0, 'free') }
    mine.perform(own)
    log.send(theirs)
    const rejected = mine.receive(log.entries)
    expect(rejected?.map((entry) => entry.id)).toEqual([own.id])
    expect(rejected?.[0]?.reason).toContain('already a clip')
    expect(mine.project).toEqual(log.document.project)
  })

  it('asks for a fresh copy when entries are missing, and puts pending edits on top of it', () => {
    const d = desk()
    const log = new Log(d.project)
    for (const at of [0, 100, 200]) log.send({ id: fresh(), command: placing(d, at, 'free') })
    const mine = new SyncedDocument(d.project, 0)
    mine.perform({ id: fresh(), command: placing(d, 300, 'free') })
    expect(mine.receive(log.entries.slice(1))).toBeNull()
    expect(mine.reload(log.document.project, 3)).toEqual([])
    expect(Object.keys(mine.project.clips)).toHaveLength(4)
  })

  it('no longer waits for an own edit that came in with a fresh copy', () => {
    const d = desk()
    const log = new Log(d.project)
    const mine = new SyncedDocument(d.project, 0)
    const own = {
      id: fresh(),
      command: commandSchema.parse({ type: 'setReel', reelId: d.reelId, set: { name: 'Quay' } }),
    }
    const later = { id: fresh(), command: placing(d, 40, 'free') }
    mine.perform(own)
    log.send(own)
    mine.perform(later)
    mine.reload(log.document.project, 1)
    expect(mine.pending.map(({ id }) => id)).toEqual([own.id, later.id])
    expect(mine.receive(log.entries)).toEqual([])
    expect(mine.pending.map(({ id }) => id)).toEqual([later.id])
    expect(Object.keys(mine.project.clips)).toHaveLength(1)
  })

  it('ends alike in every window, however sending and receiving interleave', () => {
    const step = fc.record({
      window: fc.nat(1),
      act: fc.constantFrom('edit', 'send', 'receive'),
      at: fc.nat(120),
      mode: fc.constantFrom('free' as const, 'insert' as const, 'over' as const),
    })
    fc.assert(
      fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
        const d = desk()
        const begun = placePair(d.project, d.picture1.id, d.voice.id, 1, 0, 30).project
        const log = new Log(begun)
        const windows = [new SyncedDocument(begun, 0), new SyncedDocument(begun, 0)]
        const sync = (mine: SyncedDocument) => {
          for (const sent of [...mine.pending]) if (!log.send(sent)) mine.drop(sent.id)
          mine.receive(log.entries)
        }
        for (const { window, act, at, mode } of steps) {
          const mine = windows[window]!
          if (act === 'edit') {
            try {
              mine.perform({ id: fresh(), command: placing(d, at, mode) })
            } catch (error) {
              if (!(error instanceof CommandRefused)) throw error
            }
          } else if (act === 'send') sync(mine)
          else mine.receive(log.entries)
        }
        windows.forEach(sync)
        windows.forEach((mine) => mine.receive(log.entries))
        for (const mine of windows) {
          expect(mine.project).toEqual(log.document.project)
          expect(check(mine.project)).toEqual([])
        }
      }),
      { numRuns: 100 },
    )
  })
})
