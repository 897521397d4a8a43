import { chromium } from '@playwright/test'
export async function open(size = { width: 1280, height: 800 }) {
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu','--disable-quic','--no-first-run','--disable-background-networking','--disable-component-update','--disable-sync','--autoplay-policy=no-user-gesture-required','--use-fake-device-for-media-stream','--use-fake-ui-for-media-stream'] })
  const page = await browser.newPage({ viewport: size })
  page.on('console', (m) => m.type() === 'error' && console.log('CONSOLE', m.text().slice(0, 300)))
  page.on('pageerror', (e) => console.log('PAGEERROR', e.message.slice(0, 300)))
  const list = await (await fetch('http://127.0.0.1:4900/api/projects')).json() as any
  const projects = list.projects ?? list
  return { browser, page, projects }
}
