import { createCanvas } from '@napi-rs/canvas'
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { BT709_ARGS } from '@dusk/media'
import { EFFECTS } from './audio/effects'
import { nightSong } from './audio/music'
import { keeperSpeech } from './audio/speech'
import { RATE } from './audio/synth'
import { boatsDrifting, handheldQuay, harbourWide, nightPier, quayCrowd } from './scenes/harbour'
import { greenPresenter, keeperTalks, paperFolding, stepsTall } from './scenes/people'
import type { Scene } from './scene'
import { drawStills } from './stills'

/** Seconds by which the separate voice recording begins before the camera. */
export const VOICE_LEAD = 1.7

export function scenes(): Scene[] {
  return [
    harbourWide,
    boatsDrifting,
    paperFolding,
    stepsTall,
    handheldQuay,
    nightPier,
    greenPresenter,
    keeperTalks(),
    quayCrowd,
  ]
}

/** Writes 16-bit stereo WAV (RIFF, Microsoft 1991). Samples beyond full scale are held at it. */
export function writeWav(path: string, samples: Float32Array): void {
  const out = Buffer.alloc(44 + samples.length * 2)
  out.write('RIFF', 0)
  out.writeUInt32LE(36 + samples.length * 2, 4)
  out.write('WAVEfmt ', 8)
  out.writeUInt32LE(16, 16)
  out.writeUInt16LE(1, 20)
  out.writeUInt16LE(2, 22)
  out.writeUInt32LE(RATE, 24)
  out.writeUInt32LE(RATE * 4, 28)
  out.writeUInt16LE(4, 32)
  out.writeUInt16LE(16, 34)
  out.write('data', 36)
  out.writeUInt32LE(samples.length * 2, 40)
  for (let i = 0; i < samples.length; i++)
    out.writeInt16LE(Math.round(Math.max(-1, Math.min(1, samples[i]!)) * 32_767), 44 + i * 2)
  writeFileSync(path, out)
}

/** Draws a scene and encodes it. */
export async function makeClip(scene: Scene, folder: string, progress: (frames: number) => void): Promise<void> {
  const { width, height, rate, seconds, name } = scene
  const sound = scene.sound()
  const wav = join(folder, `.${name}.wav`)
  if (sound) writeWav(wav, sound)
  // Large scenes are drawn at two thirds and scaled by the encoder: soft light loses nothing by it, and time halves.
  const scale = width * height > 1_500_000 ? 2 / 3 : 1
  const [w, h] = [Math.round(width * scale), Math.round(height * scale)]
  const args = [
    '-v',
    'error',
    '-y',
    '-f',
    'rawvideo',
    '-pix_fmt',
    'rgba',
    '-s',
    `${w}x${h}`,
    '-r',
    `${rate.num}/${rate.den}`,
    '-i',
    'pipe:0',
    ...(sound ? ['-i', wav, '-c:a', 'aac', '-b:a', '160k', '-map', '0:v', '-map', '1:a'] : []),
    '-vf',
    `scale=${width}:${height}:flags=bicubic:out_color_matrix=bt709:out_range=tv`,
    '-c:v',
    'libx264',
    '-preset',
    'ultrafast',
    '-crf',
    '18',
    '-g',
    '60',
    ...BT709_ARGS,
    '-threads',
    '2',
    '-movflags',
    '+faststart',
    join(folder, name),
  ]
  const encoder = spawn('ffmpeg', args, { stdio: ['pipe', 'ignore', 'inherit'] })
  const closed = once(encoder, 'close')
  const canvas = createCanvas(w, h)
  const c = canvas.getContext('2d')
  c.scale(scale, scale)
  const frames = Math.round((seconds * rate.num) / rate.den)
  for (let n = 0; n < frames; n++) {
    scene.draw(c, (n * rate.den) / rate.num)
    if (!encoder.stdin.write(Buffer.from(canvas.data()))) await once(encoder.stdin, 'drain')
    progress(1)
  }
  encoder.stdin.end()
  const [code] = (await closed) as [number]
  rmSync(wav, { force: true })
  if (code !== 0) throw new Error(`Encoding ${name} failed.`)
}

/** Makes every sound file of the demo. */
export function makeSounds(folder: string): string[] {
  const names = ['night-song.wav', 'keeper-clean-voice.wav']
  writeWav(join(folder, names[0]!), nightSong())
  const { dry } = keeperSpeech()
  const lead = new Float32Array(Math.round(VOICE_LEAD * RATE) * 2 + dry.length)
  lead.set(dry, Math.round(VOICE_LEAD * RATE) * 2)
  writeWav(join(folder, names[1]!), lead)
  for (const [name, make] of Object.entries(EFFECTS)) {
    writeWav(join(folder, `${name}.wav`), make())
    names.push(`${name}.wav`)
  }
  return names
}

/** Makes all of the demo's media. `part` of `parts` draws only some clips, so that two processes share the work. */
export async function makeMedia(
  folder: string,
  progress: (done: number, all: number) => void,
  part = 0,
  parts = 1,
): Promise<void> {
  mkdirSync(folder, { recursive: true })
  const all = scenes()
  const mine = all.filter((_, i) => i % parts === part)
  const total = mine.reduce((sum, scene) => sum + Math.round((scene.seconds * scene.rate.num) / scene.rate.den), 0)
  let done = 0
  if (part === 0) {
    makeSounds(folder)
    drawStills(folder)
  }
  for (const scene of mine) await makeClip(scene, folder, (n) => progress((done += n), total))
}
