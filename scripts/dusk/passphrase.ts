import { chmodSync, existsSync, rmSync, writeFileSync } from 'node:fs'
import { createInterface } from 'node:readline/promises'
import { Writable } from 'node:stream'
import { sealPassphrase, SHORTEST_PASSPHRASE } from '../../apps/studio/server/utils/passphrase'
import { ownFolder } from './cluster'
import { passphraseFile } from './network'
import type { Options } from './options'
import { StepFailed } from './steps'

/** Asks for a line that isn't shown; from a pipe, its first one is taken. */
async function hidden(question: string): Promise<string> {
  if (process.stdin.isTTY) process.stdout.write(question)
  const silent = new Writable({ write: (_chunk, _encoding, done) => done() })
  const lines = createInterface({ input: process.stdin, output: silent, terminal: Boolean(process.stdin.isTTY) })
  try {
    return await lines.question('')
  } finally {
    lines.close()
    if (process.stdin.isTTY) process.stdout.write('\n')
  }
}

/** Chooses the passphrase that lets browsers of the network in, or, left empty, takes it away. */
export async function run({ data }: Options): Promise<void> {
  ownFolder(data)
  const path = passphraseFile(data)
  const words = await hidden('Passphrase (empty: none): ')
  if (words === '') {
    const was = existsSync(path)
    rmSync(path, { force: true })
    console.log(was ? 'The passphrase is gone; start without --host from now on.' : 'There is no passphrase.')
    return
  }
  if ([...words].length < SHORTEST_PASSPHRASE)
    throw new StepFailed(`A passphrase has ${SHORTEST_PASSPHRASE} characters or more; several words do well.`)
  if (process.stdin.isTTY && (await hidden('The same again: ')) !== words)
    throw new StepFailed('These were two different passphrases; nothing was changed.')
  writeFileSync(path, await sealPassphrase(words), { mode: 0o600 })
  chmodSync(path, 0o600)
  console.log('Kept. It holds from the next start on, and whoever came in by another one has to type it.')
}
