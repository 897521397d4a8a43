import { open } from './zz-look.mts'
const { browser, page, projects } = await open()
const p = projects.find((x: any) => /Try/i.test(x.name))
await page.goto(`http://127.0.0.1:4900/projects/${p.id}`)
await page.waitForTimeout(3000)
await page.getByRole('navigation', { name: 'Drawers' }).getByRole('button', { name: 'Effects' }).click()
await page.locator('[data-clip][aria-label*=" on Picture 1"]').first().click({ position: { x: 30, y: 20 } })
const details = page.getByRole('complementary', { name: 'Details' })
await page.getByLabel('Find an effect').fill('Negative'); await page.waitForTimeout(600)
await page.getByRole('region', { name: 'Effects' }).getByRole('button', { name: 'Negative', exact: true }).first().click()
const mask = details.getByRole('region', { name: /^Mask of/ })
await mask.getByRole('button', { name: 'add' }).click()
await page.getByRole('menuitem', { name: 'Pen' }).click()
await page.waitForTimeout(500)
const box = (await page.getByTestId('mask-layer').boundingBox())!
for (const [x, y] of [[0.6, 0.2],[0.9, 0.2],[0.9, 0.8],[0.6, 0.8]] as const) { await page.mouse.click(box.x + box.width * x, box.y + box.height * y); await page.waitForTimeout(300); console.log(await page.evaluate(([x, y]) => document.elementFromPoint(x, y)?.outerHTML.slice(0, 200), [box.x + box.width * x, box.y + box.height * y])) }
const got = (await (await fetch(`http://127.0.0.1:4900/api/projects/${p.id}`)).json() as any).project
console.log(JSON.stringify(Object.values(got.effects).map((e: any) => [e.kind, e.mask])))
console.log(await page.locator('[role=status],[role=alert]').allTextContents())
await page.screenshot({ path: '/tmp/l6.png' })
await browser.close()
