// Makes plain JavaScript of the worker and of its threads: reading some hundred files of TypeScript takes a new thread
// three seconds, this takes it half of one.
import { rmSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { build } from 'esbuild'

const here = dirname(fileURLToPath(import.meta.url))
const ENTRIES = {
  main: 'src/main.ts',
  chunkThread: 'src/render/chunkThread.ts',
  soundThread: 'src/render/soundThread.ts',
}
/** Packages that go in, as ours do; the others stay where npm put them: they bring programs, or many small files. */
const INSIDE =
  /^(@dusk\/|(d3-array|fast-deep-equal|fractional-indexing|lru-cache|mediabunny|zod)($|\/)|.*\/unicode\.json$)/

rmSync(join(here, 'build'), { recursive: true, force: true })
// Each by itself: together they would share what only one of them needs.
for (const [name, entry] of Object.entries(ENTRIES))
  await build({
    entryPoints: { [name]: join(here, entry) },
    outdir: join(here, 'build'),
    outExtension: { '.js': '.mjs' },
    chunkNames: `${name}-[name]-[hash]`,
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    sourcemap: true,
    plugins: [
      {
        name: 'what stays outside',
        setup: ({ onResolve }) =>
          onResolve({ filter: /^[^./]/ }, ({ path, kind }) =>
            kind === 'entry-point' || INSIDE.test(path) ? undefined : { path, external: true },
          ),
      },
    ],
  })
