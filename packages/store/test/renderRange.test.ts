import { describe, expect, it } from 'vitest'
import { applyCommand, commandSchema, createProject, frameToTicks, tracksOf, type Project } from '@dusk/timeline'
import { RangeRefused, renderRange } from '../src/index'

const RATE = { num: 30000, den: 1001 }
const f = (frame: number) => frameToTicks(frame, RATE)

/** A reel of 100 frames at 29.97. */
function reel(): { project: Project; reelId: string } {
  const empty = createProject('Night', { width: 640, height: 360, rate: RATE }, () => crypto.randomUUID())
  const reelId = Object.keys(empty.reels)[0]!
  const track = tracksOf(empty, reelId)[0]!
  const backdrop = {
    ...{ clipId: crypto.randomUUID(), trackId: track.id, start: 0, length: f(100), params: {} },
    ...{ kind: 'generator', generator: 'plain', settings: {} },
  }
  const command = commandSchema.parse({ type: 'addGenerated', mode: 'free', generated: [backdrop] })
  return { project: applyCommand(empty, command, crypto.randomUUID()).project, reelId }
}

describe('a range to render', () => {
  const { project, reelId } = reel()

  it('is put on the reel’s frames', () => {
    expect(renderRange(project, reelId, { from: f(10) + 9_000_000, to: f(20) - 9_000_000 })).toEqual({
      from: f(10),
      to: f(20),
    })
    expect(renderRange(project, reelId, null)).toBeNull()
  })

  it('ends with the reel where it goes a hair beyond it', () => {
    expect(renderRange(project, reelId, { from: 0, to: f(101) })).toEqual({ from: 0, to: f(100) })
  })

  it.each([
    ['past the end', f(40), f(140), /the reel ends at 0:00:03[;:]10/],
    ['wholly past the end', f(140), f(180), /the reel ends at/],
    ['turned around', f(40), f(30), /ends before it begins/],
    ['shorter than a frame', f(40), f(40) + 1000, /shorter than a frame/],
  ])('is refused in words when it is %s', (_what, from, to, words) => {
    expect(() => renderRange(project, reelId, { from, to })).toThrow(RangeRefused)
    expect(() => renderRange(project, reelId, { from, to })).toThrow(words)
  })
})
