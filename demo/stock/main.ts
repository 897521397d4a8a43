import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { WaveformBuilder } from '@dusk/sound'
import { writeWav } from '../src/make'
import { RATE } from '../src/audio/synth'
import { drawPicture, PICTURES } from './pictures'
import { BEDS, playBed, SOUNDS } from './sounds'

/** `node --import tsx demo/stock/main.ts FOLDER`: makes the stock: its files, small pictures, and `stock.json`. */
const folder = process.argv[2]!
const items: object[] = []

for (const [id, { title, group, make }] of Object.entries(SOUNDS)) keepSound(id, title, group, make())
for (const [id, bed] of Object.entries(BEDS)) keepSound(id, bed.title, 'Music', playBed(bed))
for (const [id, picture] of Object.entries(PICTURES)) {
  const { bytes, extension, small } = drawPicture(picture)
  const name = `${id}.${extension}`
  writeFileSync(join(folder, name), bytes)
  writeFileSync(join(folder, `${name}.small`), small)
  items.push({ name, title: picture.title, group: picture.group, kind: 'still', seconds: 0 })
}
writeFileSync(join(folder, 'stock.json'), JSON.stringify({ items }, null, 1))

function keepSound(id: string, title: string, group: string, samples: Float32Array): void {
  const peak = samples.reduce((most, value) => Math.max(most, Math.abs(value)), 0)
  // Every sound of the stock peaks at −3 dB, so that none of them startles.
  if (peak > 0) for (let i = 0; i < samples.length; i++) samples[i]! *= 0.708 / peak
  writeWav(join(folder, `${id}.wav`), samples)
  const wave = new WaveformBuilder(2)
  wave.push(samples)
  writeFileSync(join(folder, `${id}.wav.small`), wave.finish())
  items.push({ name: `${id}.wav`, title, group, kind: 'sound', seconds: samples.length / 2 / RATE })
}
