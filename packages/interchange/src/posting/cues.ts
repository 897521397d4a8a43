/** A line of words and when it is shown, in milliseconds. */
export interface Cue {
  from: number
  to: number
  text: string
}

/** Captions that can't be read; the message names the line and what is wrong there. */
export class BadCaptions extends Error {
  constructor(line: number, what: string) {
    super(`Line ${line}: ${what}`)
    this.name = 'BadCaptions'
  }
}

const CLOCK = String.raw`(?:(\d{1,3}):)?([0-5]?\d):([0-5]?\d)[.,](\d{3})`
const TIMING = new RegExp(String.raw`^\s*${CLOCK}\s*-->\s*${CLOCK}(?:\s.*)?$`)

const milliseconds = (parts: readonly (string | undefined)[]) => {
  const [hours, minutes, seconds, rest] = parts.map((part) => Number(part ?? 0)) as [number, number, number, number]
  return ((hours * 60 + minutes) * 60 + seconds) * 1000 + rest
}

/**
 * Reads captions in WebVTT (W3C WebVTT 1, § 4) or SubRip. Notes, styles, regions and places of cues are passed over.
 * @returns cues in the order of their beginnings
 * @throws {BadCaptions} when there are no cues, or one has times that can't be
 */
export function readCues(text: string): Cue[] {
  const lines = text.replace(/^\uFEFF/, '').split(/\r\n|\r|\n/)
  const cues: Cue[] = []
  for (let i = 0; i < lines.length; i++) {
    if (!lines[i]!.includes('-->')) continue
    const found = TIMING.exec(lines[i]!)
    if (!found) throw new BadCaptions(i + 1, 'a time is written as 00:01:02.500 --> 00:01:05.000.')
    const [from, to] = [milliseconds(found.slice(1, 5)), milliseconds(found.slice(5, 9))]
    if (to <= from) throw new BadCaptions(i + 1, 'these words end before they begin.')
    const words: string[] = []
    while (i + 1 < lines.length && lines[i + 1]!.trim() !== '' && !lines[i + 1]!.includes('-->'))
      words.push(lines[++i]!)
    cues.push({ from, to, text: words.join('\n') })
  }
  if (cues.length === 0) throw new BadCaptions(1, 'there are no captions in this file: WebVTT and SubRip are read.')
  return cues.sort((a, b) => a.from - b.from)
}

const two = (n: number) => String(n).padStart(2, '0')

/** A time as WebVTT writes it. */
function vttTime(ms: number): string {
  const whole = Math.floor(ms / 1000)
  const rest = String(Math.round(ms) % 1000).padStart(3, '0')
  return `${two(Math.floor(whole / 3600))}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}.${rest}`
}

/** Cues as a WebVTT file. */
export function writeCues(cues: readonly Cue[]): string {
  // An empty line ends a cue, and an arrow would begin another.
  const plain = (text: string) => text.replace(/\n{2,}/g, '\n').replaceAll('-->', '→')
  const lines = cues.map(({ from, to, text }) => `${vttTime(from)} --> ${vttTime(to)}\n${plain(text)}\n`)
  return `WEBVTT\n\n${lines.join('\n')}`
}
