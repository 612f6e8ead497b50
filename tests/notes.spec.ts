import { expect, test } from '@playwright/test'
import { BenchPage } from './bench-page'
import { BASE, serveTests } from './server'

serveTests(test)

test('notes, frames and names are written where they stand; a frame takes its cards along; all is saved', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  // a copy: what is saved here is no other walk's
  const list = (await (await page.request.get(`${BASE}/api/projects`)).json()) as { id: string; name: string }[]
  const lantern = list.find(p => p.name === 'Skerry lantern')!
  const { state } = (await (await page.request.get(`${BASE}/api/projects/${lantern.id}`)).json()) as {
    state: object
  }
  const copied = await page.request.post(`${BASE}/api/projects`, { data: { name: 'Noted lantern', state } })
  expect(copied.ok()).toBe(true)
  await bench.openStill('Noted lantern')
  await bench.networkLarge()
  const network = page.getByTestId('network')
  await network.press('Escape')
  await bench.key('m')
  const text = page.getByLabel('Text of the note')
  await expect(text).toBeFocused()
  await page.keyboard.type('Edges first')
  await page.keyboard.press('Enter')
  await page.keyboard.type('then chips')
  await page.keyboard.press('Control+Enter')
  const note = page.locator('.vue-flow__node-note')
  await expect(note).toContainText('Edges first')
  await expect(note).toContainText('then chips')

  await bench.card('chips').click()
  await bench.card('edge_wear').click({ modifiers: ['Control'] })
  await bench.key('Shift+M')
  const title = page.getByLabel('Title of the frame')
  await expect(title).toBeFocused()
  await page.keyboard.type('Masks')
  await page.keyboard.press('Enter')
  const frame = page.locator('.vue-flow__node-backdrop')
  await expect(frame).toContainText('Masks')
  // a frame is about its cards, and moved by its title takes them along
  const box = async (of: typeof frame) => (await of.boundingBox())!
  const inside = async () => {
    const [f, a, b] = [await box(frame), await box(bench.card('chips')), await box(bench.card('edge_wear'))]
    return [a, b].every(
      c => c.x > f.x && c.y > f.y && c.x + c.width < f.x + f.width && c.y + c.height < f.y + f.height,
    )
  }
  expect(await inside()).toBe(true)
  const [before, bar] = [await box(bench.card('chips')), await box(frame.locator('.bar'))]
  await bench.drag({ x: bar.x + 10, y: bar.y + 6 }, { x: bar.x + 10, y: bar.y + 66 }, 8)
  await expect.poll(async () => Math.round((await box(bench.card('chips'))).y - before.y)).toBeGreaterThan(40)
  expect(await inside()).toBe(true)
  // one step back takes both where they were
  await bench.key('Control+z')
  await expect.poll(async () => Math.round((await box(bench.card('chips'))).y - before.y)).toBe(0)

  // names of cards, layers and materials, where they stand
  await bench.card('chips').dblclick()
  await page.keyboard.type('Chipping')
  await page.keyboard.press('Enter')
  await expect(bench.card('chips')).toContainText('Chipping')
  await page.getByRole('button', { name: 'Primer', exact: true }).dblclick()
  await expect(page.getByLabel('Name of the layer, here')).toBeFocused()
  await page.keyboard.type('Etch primer')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-layer]', { hasText: 'Etch primer' })).toBeVisible()
  await page.getByRole('heading', { level: 1 }).getByText('Chipped enamel').dblclick()
  await page.keyboard.type('Harbour enamel')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Harbour enamel')
  await expect(page.getByRole('combobox', { name: 'Material of Housing' })).toContainText('Harbour enamel')

  await bench.key('Control+s')
  await expect(page.getByText('Saved as')).toBeVisible()
  await page.reload()
  await expect(bench.card('chips')).toBeVisible()
  await bench.networkLarge()
  await expect(frame).toContainText('Masks')
  await expect(note).toContainText('then chips')
  // what a frame is about stays when the frame goes
  await frame.locator('.bar').click()
  await bench.key('Delete')
  await expect(frame).toHaveCount(0)
  await expect(bench.card('chips')).toContainText('Chipping')
})

test('layers that are picked together are changed, switched and taken out together', async ({ page }) => {
  const bench = new BenchPage(page)
  await bench.openStill('Skerry lantern')
  const layer = (name: string) => page.getByRole('button', { name, exact: true })
  const layers = page.locator('[data-layer]')
  const count = await layers.count()
  await layer('Primer').click()
  await layer('Enamel').click({ modifiers: ['Control'] })
  await expect(layer('Primer')).toHaveAttribute('aria-pressed', 'true')
  await expect(layer('Enamel')).toHaveAttribute('aria-pressed', 'true')
  const roughness = bench.property('specular_roughness').getByRole('textbox')
  await roughness.fill('0.42')
  await roughness.press('Enter')
  const thickness = bench.property('thickness').getByRole('textbox')
  await thickness.fill('70 µm')
  await thickness.press('Enter')
  for (const name of ['Primer', 'Enamel']) {
    await layer(name).click()
    await expect(bench.property('specular_roughness').getByRole('textbox')).toHaveValue('0.42')
    await expect(bench.property('thickness').getByRole('textbox')).toHaveValue(/^70/)
  }
  await layer('Primer').click({ modifiers: ['Control'] })
  await bench.key('h')
  await expect(page.getByRole('button', { name: 'Switch on Primer' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Switch on Enamel' })).toBeVisible()
  await bench.key('Delete')
  await expect(layers).toHaveCount(count - 2)
  await bench.key('Control+z')
  await expect(layers).toHaveCount(count)
})

test('the network from afar: an overview moves it, names lie over none, it is tidied to the pane', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await bench.openStill('Skerry lantern')
  await bench.networkLarge()
  const overview = page.getByRole('img', { name: 'Overview of the network' })
  await expect(overview).toHaveCount(0)
  const network = (await page.getByTestId('network').boundingBox())!
  const middle = { x: network.x + network.width / 2, y: network.y + network.height / 2 }
  await page.mouse.move(middle.x, middle.y)
  for (let i = 0; i < 6; i++) await page.mouse.wheel(0, -300)
  await bench.networkStill()
  await expect(overview).toBeVisible()
  const transform = () => page.locator('.vue-flow__transformationpane').getAttribute('style')
  const was = await transform()
  const o = (await overview.boundingBox())!
  await bench.drag({ x: o.x + o.width / 2, y: o.y + o.height / 2 }, { x: o.x + o.width / 2 - 30, y: o.y + 20 }, 6)
  await expect.poll(transform).not.toBe(was)
  for (let i = 0; i < 40; i++) await page.mouse.wheel(0, 600)
  await page.mouse.move(middle.x, middle.y)
  for (let i = 0; i < 40; i++) await page.mouse.wheel(0, 600)
  await bench.networkStill()
  await expect(page.getByTestId('network')).toHaveClass(/far/)
  const names = page.locator('.vue-flow__node .title:visible')
  expect(await names.count()).toBeGreaterThan(0)
  const boxes = (await Promise.all((await names.all()).map(n => n.boundingBox()))).filter(b => b !== null)
  const over = boxes.flatMap((a, i) =>
    boxes
      .slice(i + 1)
      .filter(
        b =>
          a.x < b.x + b.width - 1 &&
          b.x < a.x + a.width - 1 &&
          a.y < b.y + b.height - 2 &&
          b.y < a.y + a.height - 2,
      ),
  )
  expect(over).toEqual([])
  await bench.key('Shift+N')
  await bench.networkStill()
  await expect(page.getByTestId('network')).not.toHaveClass(/far/)
})
