import { availableParallelism } from 'node:os'
import { defineConfig } from 'vitest/config'
import vue from '@vitejs/plugin-vue'

export default defineConfig({
  test: {
    // One processor is left free otherwise, and of two that is half of them.
    maxWorkers: availableParallelism(),
    projects: [
      {
        test: {
          name: 'node',
          environment: 'node',
          include: [
            'packages/*/test/**/*.test.ts',
            'apps/{renderer,board}/test/**/*.test.ts',
            '{demo,scripts}/test/**/*.test.ts',
          ],
          // Thousands of random histories take their time.
          testTimeout: process.env.DUSK_LONG ? 3_600_000 : 240_000,
          hookTimeout: 300_000,
        },
      },
      {
        // Addresses of the studio's own files are left as they are.
        plugins: [vue({ template: { transformAssetUrls: false } })],
        resolve: {
          alias: {
            '~~': new URL('./apps/studio', import.meta.url).pathname,
            '~': new URL('./apps/studio/app', import.meta.url).pathname,
          },
        },
        test: {
          name: 'dom',
          environment: 'happy-dom',
          include: ['apps/studio/test/**/*.test.ts'],
          setupFiles: ['apps/studio/test/tools/setup.ts'],
          testTimeout: 60_000,
        },
      },
    ],
  },
})
