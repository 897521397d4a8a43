import { open } from './zz-look.mts'
const { browser, page, projects } = await open()
const p = projects.find((x: any) => /Lantern/i.test(x.name))
await page.goto(`http://127.0.0.1:4900/projects/${p.id}`)
await page.waitForTimeout(4000)
await page.getByRole('navigation', { name: 'Drawers' }).getByRole('button', { name: 'Effects' }).click()
await page.mouse.click(320, 640)
await page.waitForTimeout(800)
const add = async (word: string) => { await page.getByLabel('Find an effect').fill(word); await page.waitForTimeout(700); await page.locator('section[aria-label="Effects"] ul li button').first().click(); await page.waitForTimeout(700) }
await add('gentle s')
const details = page.getByRole('complementary', { name: 'Details' })
await details.getByText('Mask', { exact: true }).last().scrollIntoViewIfNeeded()
await page.waitForTimeout(500)
await page.screenshot({ path: '/tmp/l2.png' })
await add('cool below')
await details.getByRole('region', { name: /^Mask of/ }).getByRole('button', { name: 'add' }).click()
await page.getByRole('menuitem', { name: 'Ellipse' }).click()
await page.waitForTimeout(800)
const layer = page.getByTestId('mask-layer')
const box = (await layer.boundingBox())!
// drag the right side outwards, move the middle
const side = (await page.getByRole('button', { name: 'Right side' }).boundingBox())!
await page.mouse.move(side.x + 12, side.y + 12); await page.mouse.down(); await page.mouse.move(side.x + 60, side.y + 20, { steps: 5 }); await page.mouse.up()
await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2); await page.mouse.down(); await page.mouse.move(box.x + box.width / 2 - 80, box.y + box.height / 2 + 30, { steps: 5 }); await page.mouse.up()
await page.waitForTimeout(800)
await page.screenshot({ path: '/tmp/l3.png' })
const got = (await (await fetch(`http://127.0.0.1:4900/api/projects/${p.id}`)).json() as any).project
console.log(JSON.stringify(Object.values(got.effects).map((e: any) => [e.kind, e.settings, e.mask])))
await browser.close()
