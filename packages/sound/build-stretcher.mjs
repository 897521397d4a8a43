// Takes the compiled stretcher out of its package: that offers an audio node only, and it has to run in workers and
// in Node. Nothing is evaluated at run time, so it fits a strict Content-Security-Policy.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const here = dirname(fileURLToPath(import.meta.url))
const path = createRequire(import.meta.url).resolve('signalsmith-stretch')
const text = readFileSync(join(dirname(path), 'SignalsmithStretch.mjs'), 'utf8')
const from = text.indexOf('var SignalsmithStretch = (')
const to = text.indexOf('function registerWorkletProcessor')
if (from < 0 || to < from) throw new Error('signalsmith-stretch has another shape than this was written for.')
mkdirSync(join(here, 'build'), { recursive: true })
writeFileSync(
  join(here, 'build/smooth-stretch.js'),
  `const exports = {}, module = {};\n${text.slice(from, to)}\nexport default SignalsmithStretch;\n`,
)
