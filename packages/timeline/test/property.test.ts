import { describe, expect, it } from 'vitest'
import equal from 'fast-deep-equal'
import fc from 'fast-check'
import {
  applyCommand,
  applyDelta,
  check,
  CommandRefused,
  commandSchema,
  describeCommand,
  documentDelta,
  dropStep,
  EMPTY_HISTORY,
  pushStep,
  redoCommand,
  takeRedo,
  takeUndo,
  undoCommand,
  type Command,
  type History,
  type Patch,
  type Project,
} from '../src/index'
import { desk } from './helpers'
import { freshId, toCommand, wish } from './wishes/index'

/** Frozen through and through, so that whoever changes it throws. What is frozen already is passed over. */
function frozen<T>(value: T): T {
  if (typeof value !== 'object' || value === null || Object.isFrozen(value)) return value
  Object.freeze(value)
  for (const part of Object.values(value)) frozen(part)
  return value
}

/** Asked thousands of times: what is as it should be costs no more than the looking. */
function holds(project: Project): void {
  const broken = check(project)
  if (broken.length > 0) expect(broken).toEqual([])
}

describe('random sequences of commands with undo and redo', () => {
  // DUSK_RUNS makes a long run of it: ./dusk test --long sets 5000.
  const runs = Number(process.env.DUSK_RUNS ?? 300)
  it(`keeps every rule of the document, and undo brings the exact document back (${runs} runs)`, () => {
    let carriedOut = 0
    fc.assert(
      fc.property(fc.array(wish, { minLength: 5, maxLength: 200, size: 'max' }), (wishes) => {
        const start = desk()
        let project = frozen(start.project)
        let history: History = EMPTY_HISTORY
        let told: Project | null = null
        let mirror: Project | null = null
        const log = new Map<string, Patch[]>()
        const commandFor = (type: string, { id, label }: { id: string; label: string }) =>
          (type === 'undo' ? undoCommand : redoCommand)(label, log.get(id)!)
        const perform = (command: Command) => applyCommand(project, commandSchema.parse(command), freshId())
        for (const w of wishes) {
          const taken = w.type === 'undo' ? takeUndo(history) : w.type === 'redo' ? takeRedo(history) : null
          if (taken) {
            project = frozen(perform(commandFor(w.type, taken.step)).project)
            history = taken.history
          } else {
            const input = toCommand(project, start.reelId, w)
            if (!input) continue
            const command = commandSchema.parse(input)
            try {
              const id = freshId(64)
              const applied = applyCommand(project, command, id)
              log.set(id, applied.patches)
              history = pushStep(history, { id, label: describeCommand(command) })
              project = frozen(applied.project)
              carriedOut++
            } catch (error) {
              if (!(error instanceof CommandRefused)) throw error
            }
          }
          holds(project)
          // Somebody who is told only of differences holds the same document.
          mirror = applyDelta(mirror, structuredClone(documentDelta(told, project)))
          told = project
          // Told in full only where they differ: it is asked thousands of times.
          if (!equal(mirror, project)) expect(mirror).toEqual(project)
        }
        const end = project
        const steps = history.done.length
        for (let taken = takeUndo(history); taken; taken = takeUndo(history)) {
          project = perform(commandFor('undo', taken.step)).project
          history = taken.history
        }
        expect(project).toEqual(start.project)
        for (let i = 0; i < steps; i++) {
          const taken = takeRedo(history)!
          project = perform(commandFor('redo', taken.step)).project
          history = taken.history
        }
        expect(project).toEqual(end)
      }),
      { numRuns: runs },
    )
    // The sequences must do something: most wishes are carried out, not refused.
    expect(carriedOut).toBeGreaterThan(runs * 4)
  })

  it(`keeps every rule when two windows undo and redo across each other (${runs} runs)`, () => {
    let [takenBack, refused] = [0, 0]
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.boolean(), wish), { minLength: 10, maxLength: 120, size: 'max' }), (wishes) => {
        const start = desk()
        let project = frozen(start.project)
        const log = new Map<string, Patch[]>()
        const histories: History[] = [EMPTY_HISTORY, EMPTY_HISTORY]
        for (const [second, w] of wishes) {
          const own = Number(second)
          const taken =
            w.type === 'undo' ? takeUndo(histories[own]!) : w.type === 'redo' ? takeRedo(histories[own]!) : null
          const input = taken
            ? (w.type === 'undo' ? undoCommand : redoCommand)(taken.step.label, log.get(taken.step.id)!)
            : toCommand(project, start.reelId, w)
          if (!input) continue
          const id = freshId(64)
          try {
            const command = commandSchema.parse(input)
            const applied = applyCommand(project, command, id)
            project = frozen(applied.project)
            log.set(id, applied.patches)
            histories[own] = taken ? taken.history : pushStep(histories[own]!, { id, label: describeCommand(command) })
            if (taken) takenBack++
          } catch (error) {
            if (!(error instanceof CommandRefused)) throw error
            refused++
            // A step that can't be taken back is forgotten, as in the desk.
            if (taken) histories[own] = dropStep(histories[own]!, taken.step.id)
          }
          holds(project)
        }
      }),
      { numRuns: runs },
    )
    expect(takenBack).toBeGreaterThan(runs)
    expect(refused).toBeGreaterThan(0)
  })
})
