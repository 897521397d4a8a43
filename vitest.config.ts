import { availableParallelism } from 'node:os'
import { defineConfig } from 'vitest/config'
import vue from '@vitejs/plugin-vue'
import { LongestFirst } from './scripts/longestFirst'

/** Milliseconds for one test. Thousands of random histories take their time. */
const PATIENCE = process.env.DUSK_LONG ? 3_600_000 : 240_000

/** How the studio's own files are found and read. */
const STUDIO = {
  // Addresses of the studio's own files are left as they are.
  plugins: [vue({ template: { transformAssetUrls: false } })],
  resolve: {
    alias: {
      '~~': new URL('./apps/studio', import.meta.url).pathname,
      '~': new URL('./apps/studio/app', import.meta.url).pathname,
    },
  },
}
/** A page without a browser. */
const PAGE = {
  environment: 'happy-dom',
  pool: 'threads' as const,
  setupFiles: ['apps/studio/test/tools/setup.ts'],
  testTimeout: 60_000,
}
/** Files that put modules of their own in place of others: what another file has read already can't be replaced. */
const MOCKED = ['features', 'player', 'uploads'].map((name) => `apps/studio/test/${name}.test.ts`)

export default defineConfig({
  test: {
    // One processor is left free otherwise, and of two that is half of them.
    maxWorkers: availableParallelism(),
    sequence: { sequencer: LongestFirst },
    projects: [
      {
        test: {
          name: 'pure',
          environment: 'node',
          include: ['packages/{timeline,compositor,sound,interchange}/test/**/*.test.ts'],
          setupFiles: ['scripts/sameDraws.ts'],
          testTimeout: PATIENCE,
          // What these packages keep between calls changes no result: their modules and kernels are loaded once.
          isolate: false,
        },
      },
      {
        test: {
          name: 'node',
          environment: 'node',
          include: [
            'packages/{media,store}/test/**/*.test.ts',
            'apps/{renderer,board}/test/**/*.test.ts',
            '{demo,scripts}/test/**/*.test.ts',
          ],
          globalSetup: ['scripts/rendererBuilt.ts'],
          setupFiles: ['scripts/sameDraws.ts'],
          testTimeout: PATIENCE,
          hookTimeout: 300_000,
          // Imports take a quarter of the time; what a file stubs it puts back.
          isolate: false,
        },
      },
      {
        ...STUDIO,
        test: {
          name: 'dom',
          ...PAGE,
          include: ['apps/studio/test/**/*.test.ts'],
          exclude: MOCKED,
          // All of the studio is read once for each thread, not once for each file.
          isolate: false,
        },
      },
      { ...STUDIO, test: { name: 'mocked', ...PAGE, include: MOCKED } },
    ],
  },
})
