import { execFileSync } from 'node:child_process'
import { renameSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { describeAsset, examine, makeProxy, makeSound, makeStill, type Examined } from '../../src/index'
import type { AssetFacts } from '@dusk/timeline'
import type { Format } from './list'

const INPUTS: Record<Format['input'], string> = {
  picture: '-f lavfi -i testsrc2=s=320x180:r=25:d=2',
  both: '-f lavfi -i testsrc2=s=320x180:r=25:d=2 -f lavfi -i aevalsrc=sin(440*2*PI*t)|sin(550*2*PI*t):d=2:s=48000',
  surround:
    '-f lavfi -i testsrc2=s=320x180:r=25:d=2 -f lavfi -i ' +
    'anoisesrc=d=2:r=48000,pan=5.1|c0=c0|c1=c0|c2=c0|c3=c0|c4=c0|c5=c0',
  sound: '-f lavfi -i aevalsrc=sin(440*2*PI*t)|sin(550*2*PI*t):d=2:s=48000',
  still: '-f lavfi -i testsrc2=s=320x180:r=1:d=1',
}

/** What became of a file: how it is described, and what the person is told. */
export interface Tried {
  asset: AssetFacts
  notes: string[]
  /** Samples of its first sound, after it was decoded to the end. */
  samples: number
}

/** Makes a file of a format, reads it in as an upload is, and makes everything that previewing needs. */
export async function tryFormat(format: Format, dir: string): Promise<Tried> {
  const made = join(dir, format.name)
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...INPUTS[format.input].split(' '), ...format.args.split(' '), made])
  // As uploads lie on disk: nothing is known but the bytes.
  const path = join(dir, format.name.replaceAll('.', '-'))
  renameSync(made, path)
  const examined: Examined = await examine(path, statSync(path).size)
  let still
  if (examined.kind === 'still') still = await makeStill(path, examined, `${path}.full`, `${path}.proxy`)
  else if (examined.kind === 'video') await makeProxy(path, examined, `${path}.proxy.mp4`)
  const asset = describeAsset('00000000-0000-4000-8000-000000000001', format.name, examined, still)
  const samples = asset.sounds.length > 0 ? await makeSound(path, examined, 0, `${path}.sound`, `${path}.wave`) : 0
  return { asset, notes: examined.notes, samples }
}
