import { expect, test, type Page } from '@playwright/test'
import { BenchPage } from './bench-page'
import { FIXTURES, serveTests } from './server'

serveTests(test)

/** Drags files over a spot of the page as from the desktop: by the browser's own drag events, with real files. */
async function dragFiles(page: Page, names: readonly string[], at: { x: number; y: number }, letGo: boolean) {
  const client = await page.context().newCDPSession(page)
  const data = { items: [], files: names.map(n => `${FIXTURES}/${n}`), dragOperationsMask: 1 }
  for (const type of ['dragEnter', 'dragOver', ...(letGo ? (['drop'] as const) : [])] as const)
    await client.send('Input.dispatchDragEvent', { type, ...at, data })
  await client.detach()
}
const middleOf = async (page: Page, selector: string) => {
  const b = (await page.locator(selector).first().boundingBox())!
  return { x: b.x + b.width / 2, y: b.y + b.height / 2 }
}

test('files dropped from the desktop go where they are let go, and never leave the page', async ({ page }) => {
  const bench = new BenchPage(page)
  await bench.openStill('Skerry lantern')
  const url = page.url()
  const drop = async (names: string[], selector: string) =>
    dragFiles(page, names, await middleOf(page, selector), true)
  const held = page.getByRole('status').filter({ hasText: 'file' })

  // a layer: what would take it is said before it is let go; two pictures go where their names say, by one placement
  await dragFiles(page, ['check.png'], await middleOf(page, 'button[data-layer][title="Primer"]'), false)
  await expect(held).toHaveText('1 file: onto Primer')
  await drop(['check.png', 'grey_rough.png'], 'button[data-layer][title="Primer"]')
  await expect(held).toHaveCount(0)
  await bench.layer('Primer').click()
  await expect(bench.property('base_color')).toContainText('check ▸')
  await expect(bench.property('specular_roughness')).toContainText('grey_rough ▸')
  await expect(
    page.locator('.vue-flow__node[data-id^="place2d"], .vue-flow__node[data-id^="placement"]'),
  ).toHaveCount(1)

  // a card with a picture exchanges it, the canvas takes another as a node
  await bench.networkLarge()
  await drop(['reference.png'], '.vue-flow__node[data-id="check"]')
  await expect(page.getByText('reference.png is the picture of check').first()).toBeVisible()
  const cards = await page.locator('.vue-flow__node').count()
  const canvas = (await page.getByTestId('network').boundingBox())!
  await dragFiles(page, ['grey.png'], { x: canvas.x + 60, y: canvas.y + canvas.height - 60 }, true)
  await expect(bench.card('grey')).toBeVisible()
  await expect(page.locator('.vue-flow__node')).toHaveCount(cards + 2)
  await bench.networkLarge()

  // a row
  await bench.layer('Enamel').click()
  await drop(['check.png'], '[data-input="specular_roughness"]')
  await expect(bench.property('specular_roughness')).toContainText('check2 ▸')

  // the picture: the part under the pointer
  await drop(['check.png'], '[data-testid=view]')
  await expect(page.getByText(/check\.png drives Colour/).first()).toBeVisible()

  // what fits nowhere says what would take it, and the page stays
  await drop(['check.png'], '[aria-label=Views]')
  await expect(page.getByRole('alert').filter({ hasText: 'check.png fits nowhere here' })).toContainText(
    'Pictures go on',
  )
  await drop(['beacon.glb'], '[aria-label=Cross-section]')
  await expect(page.getByRole('alert').filter({ hasText: 'beacon.glb fits nowhere here' })).toContainText(
    'on Projects',
  )
  expect(page.url()).toBe(url)
})

test('a wire let go over nothing finds what takes it; a driven row is driven by another at once', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await bench.openStill('Skerry lantern')
  await bench.networkLarge()
  const canvas = (await page.getByTestId('network').boundingBox())!
  await bench.card('position').locator('.vue-flow__handle.source').hover()
  await page.mouse.down()
  await page.mouse.move(canvas.x + 200, canvas.y + canvas.height - 90, { steps: 6 })
  await page.mouse.up()
  await page.keyboard.type('dot')
  await expect(page.getByRole('listbox')).toContainText('Takes what is given (vector3)')
  await expect(page.locator('[role=option][data-highlighted]')).toContainText('dot')
  await page.keyboard.type('product')
  await page.keyboard.press('Enter')
  await expect(page.locator('.wire[data-id="position>dotproduct.in1"]')).toHaveCount(1)
  await expect(bench.card('position_as_vector2')).toHaveCount(0)

  // called something, it is so on its card and where it drives
  await page.getByLabel('Name of the node').fill('Lit side')
  await page.getByLabel('Name of the node').press('Enter')
  await expect(bench.card('dotproduct')).toContainText('Lit side')
  await bench.networkLarge()
  await bench.layer('Edge wear').click()
  const mask = bench.property('mix')
  await expect(mask).toContainText('crisp')
  await mask.getByRole('button', { name: 'Drive Mask by another node' }).click()
  await mask.getByLabel('Node that drives Mask').selectOption({ label: 'Lit side' })
  await expect(mask).toContainText('Lit side ▸')
  await mask.getByRole('button', { name: 'Unplug Mask' }).click()
  await expect(mask.getByLabel('Mask', { exact: true })).toBeVisible()

  // the canvas of a material comes back where it was left
  const place = () => page.locator('.vue-flow__transformationpane').getAttribute('style')
  await page.getByTestId('network').hover()
  await page.mouse.wheel(0, 400)
  await bench.networkStill()
  const left = await place()
  await bench.pickPart('Bezel')
  await bench.networkStill()
  expect(await place()).not.toBe(left)
  await bench.pickPart('Housing')
  await bench.networkStill()
  await expect.poll(place).toBe(left)
})

test('a value is changed of all nodes that are picked, in one step', async ({ page }) => {
  const bench = new BenchPage(page)
  await bench.openStill('Skerry lantern')
  await bench.networkLarge()
  const [a, b] = [(await bench.card('halo').boundingBox())!, (await bench.card('crisp').boundingBox())!]
  await page.keyboard.down('Shift')
  await bench.drag({ x: a.x - 12, y: a.y - 8 }, { x: b.x + b.width + 6, y: b.y + b.height + 6 }, 12)
  await page.keyboard.up('Shift')
  await expect(page.locator('.vue-flow__node.selected')).toHaveCount(2)
  const low = bench.property('low')
  await expect(low).toContainText('× 2')
  await low.getByLabel('Low', { exact: true }).fill('0.2')
  await low.getByLabel('Low', { exact: true }).press('Enter')
  for (const name of ['halo', 'crisp']) await expect(bench.card(name)).toContainText('0.2')
  await bench.key('Control+z')
  await expect(bench.card('halo')).toContainText('0.5')
  await expect(bench.card('crisp')).toContainText('0.62')
})
