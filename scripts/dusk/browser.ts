import { chromium, type Browser } from '@playwright/test'

/** Debian's headless browser, for pictures and measurements. */
export function openBrowser(...more: string[]): Promise<Browser> {
  return chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--autoplay-policy=no-user-gesture-required',
      ...more,
    ],
  })
}
