// Compiles the kernels into a module that holds them as text: a mixer is made at once, in workers and in Node alike,
// and nothing has to be fetched first.
import { execFileSync } from 'node:child_process'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const here = dirname(fileURLToPath(import.meta.url))
const wasm = join(here, 'build/kernels.wasm')
const options = '--optimizeLevel 3 --shrinkLevel 0 --noAssert --runtime stub --enable simd --enable bulk-memory'
mkdirSync(dirname(wasm), { recursive: true })
execFileSync('npx', ['asc', join(here, 'kernels/index.ts'), '--outFile', wasm, ...options.split(' ')], {
  stdio: 'inherit',
})
writeFileSync(join(here, 'build/kernels.ts'), `export default '${readFileSync(wasm).toString('base64')}'\n`)
