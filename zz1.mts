import { open } from './zz-look.mts'
const { browser, page, projects } = await open()
console.log(projects.map((p: any) => p.name).join(' | '))
const p = projects.find((x: any) => /Lantern/i.test(x.name)) ?? projects[0]
await page.goto(`http://127.0.0.1:4900/projects/${p.id}`)
await page.waitForTimeout(5000)
await page.getByRole('navigation', { name: 'Drawers' }).getByRole('button', { name: 'Effects' }).click()
// select the first picture clip
const clip = page.locator('[data-testid="timeline-body"] [data-clip]').first()
await clip.click({ position: { x: 20, y: 10 } })
await page.waitForTimeout(1500)
await page.getByLabel('Find an effect').fill('curves')
await page.waitForTimeout(1500)
await page.locator('section[aria-label="Effects"] ul li button').first().click()
await page.waitForTimeout(1500)
await page.keyboard.press('Shift+Y')
await page.waitForTimeout(1500)
await page.screenshot({ path: '/tmp/l1.png' })
await browser.close()
