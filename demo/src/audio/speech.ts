import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { clap, over, RATE, silence } from './synth'

/** What the harbour keeper says, and the pause before each sentence in seconds. */
const LINES: [number, string][] = [
  [0.5, 'I keep the harbour light at Marrow Quay.'],
  [1.1, 'When the first cold evening comes, we fold a boat from paper.'],
  [1.4, 'Then the tide carries them out.'],
]
const CLAP_AT = 1

function speak(text: string): Float32Array {
  const dir = mkdtempSync(join(tmpdir(), 'dusk-speech-'))
  try {
    const path = join(dir, 'line.wav')
    execFileSync('espeak-ng', ['-v', 'en-gb', '-s', '142', '-p', '32', '-w', path, text])
    const raw = execFileSync(
      'ffmpeg',
      ['-v', 'error', '-i', path, '-ac', '1', '-ar', String(RATE), '-f', 'f32le', 'pipe:1'],
      { maxBuffer: 64 << 20 },
    )
    return new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length))
  } finally {
    rmSync(dir, { recursive: true, force: true })
  }
}

/** The keeper's words: dry stereo with a clap, how loud they are over time, and how long. */
export interface Speech {
  seconds: number
  clapAt: number
  dry: Float32Array
  /** Loudness at a time, 0 to 1; it moves the mouth. */
  level(t: number): number
}

let made: Speech | null = null

export function keeperSpeech(): Speech {
  if (made) return made
  let at = CLAP_AT + 0.2
  const placed = LINES.map(([pause, text]) => {
    const voice = speak(text)
    at += pause
    const start = at
    at += voice.length / RATE
    return { start, voice }
  })
  const seconds = Math.ceil(at + 0.4)
  const dry = silence(seconds)
  over(dry, clap(), CLAP_AT, 0.7)
  for (const { start, voice } of placed) {
    const first = Math.round(start * RATE)
    for (let i = 0; i < voice.length; i++) for (const c of [0, 1]) dry[(first + i) * 2 + c]! += voice[i]! * 0.8
  }
  const step = RATE / 50
  const envelope = Array.from({ length: Math.ceil(dry.length / 2 / step) }, (_, n) => {
    let sum = 0
    for (let i = 0; i < step; i++) sum += (dry[(n * step + i) * 2] ?? 0) ** 2
    return Math.min(1, Math.sqrt(sum / step) * 7)
  })
  made = { seconds, clapAt: CLAP_AT, dry, level: (t) => (t > CLAP_AT + 0.3 ? (envelope[Math.floor(t * 50)] ?? 0) : 0) }
  return made
}
