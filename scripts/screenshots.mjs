// Takes the pictures of docs/screenshots from the demo data:  node scripts/screenshots.mjs http://127.0.0.1:3000
// The server must be running on freshly loaded demo data with a worker beside it (./wavelume demo), and
// .pw-results/fixtures must exist (tests/fixtures.ts).
import { readFileSync } from 'node:fs'
import { chromium } from '@playwright/test'

const base = process.argv[2] ?? 'http://127.0.0.1:3000'
const out = 'docs/screenshots'
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage', '--disable-background-networking'],
})
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
const samples = async n => {
  await page.waitForTimeout(800)
  await page.waitForFunction(m => Number(document.querySelector('[data-testid=samples]')?.textContent) >= m, n, {
    timeout: 240_000,
  })
}
const key = async k => {
  await page.evaluate(() => document.activeElement?.blur())
  await page.keyboard.press(k)
}

/** Chooses from a list that a button opens. */
const choose = async (label, name) => {
  await page.getByLabel(label).click()
  await page.getByRole('option', { name, exact: true }).first().click()
}

await page.goto(base)
await page.getByRole('link', { name: /Skerry lantern/ }).click()
await samples(64)
await page.waitForTimeout(2500)
await page.screenshot({ path: `${out}/bench.png` })
await key('k')
await page
  .getByText(/Kept as proof/)
  .first()
  .waitFor()
await page.getByRole('button', { name: 'Enamel', exact: true }).first().click()
await choose('Matter', 'bare metal')
await samples(8)
await key('w')
await page.waitForTimeout(5000)
await page.screenshot({ path: `${out}/wipe.png` })
await key('w')
await key('Control+z')
await page.locator('button[data-layer="worn"]').click()
await page.locator('[data-input="mix"] button.driver').first().click()
await key('e')
await samples(3)
await key('n')
await samples(10)
await page.screenshot({ path: `${out}/network.png` })
await key('n')
await key('e')

await page
  .getByRole('list', { name: 'Parts of the model' })
  .getByRole('button', { name: /^Chimney/ })
  .click()
await key('Shift+C')
await samples(16)
await page.waitForTimeout(5000)
await page.screenshot({ path: `${out}/curves.png` })
await key('Shift+C')
await page
  .getByRole('list', { name: 'Parts of the model' })
  .getByRole('button', { name: /^Housing/ })
  .click()

await page.getByRole('button', { name: 'Enamel', exact: true }).first().click()
await page.locator('[data-input="specular_roughness"]').hover()
await key('t')
await page.getByText('24 samples').waitFor({ timeout: 120_000 })
await samples(4)
await page.waitForTimeout(2500)
await page.screenshot({ path: `${out}/test-strip.png` })
await key('t')
await page.locator('[data-input="specular_roughness"]').getByLabel('Roughness', { exact: true }).fill('1.4')
await page.keyboard.press('Enter')
await samples(16)
await page.waitForTimeout(3000)
await page.getByTestId('checks').click()
await page.waitForTimeout(800)
await page.screenshot({ path: `${out}/checks.png` })
await key('Control+z')
await page.waitForTimeout(3500)

await page.goto(base)
const transfer = await page.evaluateHandle(b64 => {
  const t = new DataTransfer()
  t.items.add(new File([Uint8Array.from(atob(b64), c => c.charCodeAt(0))], 'beacon.glb'))
  return t
}, readFileSync('.pw-results/fixtures/beacon.glb').toString('base64'))
await page.locator('main').dispatchEvent('drop', { dataTransfer: transfer })
await page.getByTestId('view').waitFor()
await samples(1)
for (const [part, starter] of [
  ['Bulb', 'Glass'],
  ['Knob', 'Metal'],
  ['Base', 'Layered paint'],
]) {
  await page
    .getByRole('list', { name: 'Parts of the model' })
    .getByRole('button', { name: new RegExp(`^${part}`) })
    .click()
  await choose(`Material of ${part}`, starter)
}
await samples(20)
await page.waitForTimeout(2500)
await page.screenshot({ path: `${out}/new-project.png` })
await page.goto(`${base}/library`)
await page.getByRole('button', { name: /Titanium, blue/ }).click()
await page.waitForTimeout(3500)
await page.screenshot({ path: `${out}/library.png` })
await page.goto(base)
await page.getByRole('link', { name: /Skerry lantern/ }).waitFor()
await page.waitForTimeout(600)
await page.screenshot({ path: `${out}/projects.png` })

await page.getByRole('link', { name: /Tidewell stair hall/ }).click()
await samples(1)
await page.getByRole('list', { name: 'Parts of the model' }).getByRole('button', { name: /^Wall/ }).click()
await page.locator('button[data-layer]').last().click()
await page.getByRole('group', { name: 'Shape' }).scrollIntoViewIfNeeded()
await samples(48)
await page.waitForTimeout(2500)
await page.screenshot({ path: `${out}/shape.png` })
await page.goto(base)

await page.getByRole('link', { name: /Cormorant hatch/ }).click()
await samples(1)
await page.getByRole('list', { name: 'Parts of the model' }).getByRole('button', { name: /^Door/ }).click()
await page.getByTestId('edit-lights').click()
// a panel repeated to a group of four
await page.getByTestId('lights-panel').getByRole('button', { name: 'Rim', exact: true }).click()
await page.getByRole('button', { name: 'Repeat to 4' }).click()
await page.getByTestId('lights-panel').getByRole('button', { name: 'Rim', exact: true }).click()
await samples(20)
await page.waitForTimeout(1500)
await page.screenshot({ path: `${out}/lights.png` })
await key('Control+z')
await page.getByTestId('edit-lights').click()
await key('n')
await page.waitForTimeout(1000)
const card = name => page.locator(`.vue-flow__node[data-id="${name}"]`)
await card('place').click()
for (const name of ['runs', 'tide', 'wet']) await card(name).click({ modifiers: ['Control'] })
await key('Shift+G')
await page.waitForTimeout(500)
await key('n')
await page.waitForTimeout(600)
await card('group/wet').dispatchEvent('click')
await key('n')
await page.waitForTimeout(600)
await samples(8)
await page.waitForTimeout(9000)
await page.screenshot({ path: `${out}/group.png` })
await key('n')
await samples(16)
await page.waitForTimeout(2500)
await page.screenshot({ path: `${out}/hatch.png` })
await page.keyboard.press('Shift+F')
await page.getByLabel('each light apart').check()
await page.getByLabel('Samples').fill('40')
await page.getByRole('button', { name: 'Put into the queue' }).click()
await page.getByRole('link', { name: 'Frames' }).click()
await page.locator('tr.frame-running').waitFor({ timeout: 60_000 })
await page.waitForTimeout(14000)
await page.screenshot({ path: `${out}/frames.png` })
await browser.close()
