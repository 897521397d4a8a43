import type { Kernels } from '../kernels'
import { pieceOf, piecesOf, type KernelName } from './split'

/** Places in the control memory. */
const HELPER = 0
const TICKET = 1
const FINISHED = 2
const KERNEL = 3
const COUNT = 4
/** Pieces the helper has done since it came: shows that it takes part. */
const TAKEN = 5

/** Most arguments a kernel has. */
const ARGUMENTS = 32
const HEAD_BYTES = 64

/** Turns of looking before waiting. */
const LOOKS = 2000
/** After this long without an answer a helper is given up, in milliseconds. */
const PATIENCE = 2000

interface Control {
  words: Int32Array
  values: Float64Array
}

function open(memory: SharedArrayBuffer): Control {
  return { words: new Int32Array(memory, 0, 16), values: new Float64Array(memory, HEAD_BYTES, ARGUMENTS) }
}

/** Memory through which two threads divide kernels between them. */
export function createBandControl(): SharedArrayBuffer {
  return new SharedArrayBuffer(HEAD_BYTES + ARGUMENTS * 8)
}

/** Whether a second thread has come, and how many pieces of kernels it has done. */
export function bandHelp(control: SharedArrayBuffer): { there: boolean; pieces: number } {
  const { words } = open(control)
  return { there: Atomics.load(words, HELPER) === 1, pieces: Atomics.load(words, TAKEN) }
}

const namesOf = (kernels: Kernels) =>
  (Object.keys(kernels) as KernelName[]).filter((name) => typeof kernels[name] === 'function').sort()

// A ticket says which call is being worked at, how many pieces it has and which is the next to be taken, in one number:
// a piece is taken by writing the ticket that follows, which only one thread can do.
const nextOf = (ticket: number) => ticket & 0xff
const totalOf = (ticket: number) => (ticket >> 8) & 0xff
const ticketOf = (call: number, total: number) => ((call & 0x7fff) << 16) | (total << 8)

/** Takes the next piece of the call that is worked at; -1 when none is left. */
function take(words: Int32Array): number {
  for (;;) {
    const ticket = Atomics.load(words, TICKET)
    if (nextOf(ticket) >= totalOf(ticket)) return -1
    if (Atomics.compareExchange(words, TICKET, ticket, ticket + 1) === ticket) return nextOf(ticket)
  }
}

/**
 * Carries out pieces of kernels for another thread, for ever. Its kernels are of the same module and memory.
 * It never returns: give it a worker of its own.
 */
export function serveBands(control: SharedArrayBuffer, kernels: Kernels): never {
  const { words, values } = open(control)
  const names = namesOf(kernels)
  const calls = names.map((name) => kernels[name] as (...args: number[]) => void)
  Atomics.store(words, HELPER, 1)
  for (;;) {
    const ticket = Atomics.load(words, TICKET)
    const piece = take(words)
    if (piece < 0) {
      if (Atomics.load(words, TICKET) === ticket) Atomics.wait(words, TICKET, ticket)
      continue
    }
    // The other thread does not go on before this piece is finished, so what stands here is of this call.
    const which = words[KERNEL]!
    const args = [...values.subarray(0, words[COUNT]!)]
    calls[which]!(...pieceOf(names[which]!, args, piece, totalOf(Atomics.load(words, TICKET)), 1))
    Atomics.add(words, TAKEN, 1)
    Atomics.add(words, FINISHED, 1)
    Atomics.notify(words, FINISHED)
  }
}

/**
 * Kernels whose large calls are done in pieces that two threads take as they come to them: this one and the one that
 * serves `control`. While that one is not there, kept from running, or gone, this one takes them all: the result is the
 * same to the bit, and nobody is waited for but in the middle of a piece.
 */
export function inTwoBands(kernels: Kernels, control: SharedArrayBuffer): Kernels {
  const { words, values } = open(control)
  let lost = false
  let count = 0

  /** Waits until the other thread has finished `pieces`; `false` when it does not answer. */
  function finished(pieces: number): boolean {
    for (let i = 0; i < LOOKS; i++) if (Atomics.load(words, FINISHED) === pieces) return true
    const began = Date.now()
    for (;;) {
      const there = Atomics.load(words, FINISHED)
      if (there === pieces) return true
      if (Date.now() - began > PATIENCE) return false
      Atomics.wait(words, FINISHED, there, 50)
    }
  }

  const divided: Record<string, unknown> = {}
  for (const [index, name] of namesOf(kernels).entries()) {
    const call = kernels[name] as (...args: number[]) => void
    divided[name] = (...args: number[]) => {
      const total = lost || Atomics.load(words, HELPER) !== 1 ? 1 : piecesOf(name, args)
      if (total === 1) return call(...args)
      words[KERNEL] = index
      words[COUNT] = args.length
      values.set(args)
      Atomics.store(words, FINISHED, 0)
      Atomics.store(words, TICKET, ticketOf(++count, total))
      Atomics.notify(words, TICKET)
      const mine = new Set<number>()
      for (let piece = take(words); piece >= 0; piece = take(words)) {
        mine.add(piece)
        call(...pieceOf(name, args, piece, total, 0))
      }
      if (finished(total - mine.size)) return
      lost = true
      for (let piece = 0; piece < total; piece++) if (!mine.has(piece)) call(...pieceOf(name, args, piece, total, 0))
    }
  }
  return divided as unknown as Kernels
}
