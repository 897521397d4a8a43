import { defineConfig } from '@playwright/test'

/**
 * Specs that change what all projects share, hold the worker back, or play and record against the clock: nothing runs
 * beside them.
 */
const ALONE = /(arrange|glance|renders|sync|voiceover)\.spec\.ts$/

/**
 * Browser tests drive the built studio that `./dusk test` has started, with its database, its worker and real files.
 */
export default defineConfig({
  testDir: 'e2e',
  outputDir: `test-results/browser-${process.env.DUSK_STAGE ?? 'all'}`,
  timeout: 1_500_000,
  expect: { timeout: 120_000 },
  retries: 0,
  reporter: [['list'], ['json', { outputFile: `test-results/browser-${process.env.DUSK_STAGE ?? 'all'}.json` }]],
  projects: [
    { name: 'together', testIgnore: ALONE },
    { name: 'alone', testMatch: ALONE },
  ],
  use: {
    baseURL: process.env.DUSK_URL,
    // A browser that has opened the studio's link.
    storageState: process.env.DUSK_SESSION,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    // Nothing on a page takes a minute to be there; without a limit a wrong name would wait for all of the test's time.
    actionTimeout: 60_000,
    // Tracing takes pictures all the time, on the same two cores that decode: switched on by hand when it is needed.
    trace: 'off',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--autoplay-policy=no-user-gesture-required',
        // A microphone that beeps, and leave to use it.
        '--use-fake-device-for-media-stream',
        '--use-fake-ui-for-media-stream',
      ],
    },
  },
})
