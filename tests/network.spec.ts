import { expect, test } from '@playwright/test'
import { apart, BenchPage } from './bench-page'
import { serveTests } from './server'

serveTests(test)

test('a curve, levels with their histogram and a ramp are drawn by hand and by keys, and the picture follows', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await bench.open('Skerry lantern')
  await bench.layer('Enamel').click()
  const add = async (words: string, id: string) => {
    await bench.key('/')
    await page.keyboard.type(words)
    await page.locator(`[data-hit="add:${id}"]`).click()
  }

  // levels of the enamel's speckle: the histogram fills once something is wired in
  await bench.layer('Enamel').click()
  await add('levels', 'range')
  await expect(page.getByText('Wire something into').first()).toBeVisible()
  await bench.card('speckle').dispatchEvent('click')
  await page.getByTestId('network').press('Escape')
  await bench.networkLarge()
  const from = (await bench.card('speckle').locator('.vue-flow__handle.source').boundingBox())!
  const to = (await bench.card('range').locator('.vue-flow__handle[data-handleid="in"]').boundingBox())!
  await bench.drag(
    { x: from.x + from.width / 2, y: from.y + from.height / 2 },
    { x: to.x + to.width / 2, y: to.y + to.height / 2 },
    12,
  )
  await bench.card('range').click()
  await bench.key('n')
  const bins = () =>
    page
      .getByTestId('levels')
      .locator('.bin')
      .evaluateAll(all => all.filter(b => Number(b.getAttribute('height')) > 4).length)
  await expect.poll(bins).toBeGreaterThan(12)
  await page.getByRole('slider', { name: 'Low end' }).focus()
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowRight')
  await expect(bench.property('inlow').getByLabel('In, low', { exact: true })).toHaveValue('0.2')
  const middle = (await page.getByRole('slider', { name: 'Middle' }).boundingBox())!
  await bench.drag(
    { x: middle.x + middle.width / 2, y: middle.y + 20 },
    { x: middle.x + middle.width / 2 + 30, y: middle.y + 20 },
  )
  await expect
    .poll(async () => Number(await bench.property('gamma').getByLabel('Gamma', { exact: true }).inputValue()))
    .toBeLessThan(0.95)

  // a curve that is all at one height sets the enamel's roughness to that
  await add('curve', 'wl_curve')
  const curve = page.getByTestId('curve')
  const box = (await curve.boundingBox())!
  await page.mouse.click(box.x + box.width * 0.5, box.y + box.height * 0.2)
  await expect(page.getByText('Point 2 of 3').first()).toBeVisible()
  const point = (await page.getByRole('slider', { name: 'Point 2' }).boundingBox())!
  const grip = { x: point.x + point.width / 2, y: point.y + point.height / 2 }
  const numbers = async () => [
    Number(await page.getByLabel('In of point 2').inputValue()),
    Number(await page.getByLabel('Out of point 2').inputValue()),
  ]
  const [before, high] = await numbers()
  await bench.drag(grip, { x: grip.x + box.width * 0.2, y: grip.y + box.height * 0.3 })
  await expect.poll(async () => (await numbers())[0]! - before!).toBeGreaterThan(0.1)
  expect((await numbers())[1]!).toBeLessThan(high! - 0.15)
  await page.keyboard.press('Tab')
  await page.getByRole('slider', { name: 'Point 2' }).focus()
  await page.keyboard.press('Delete')
  await expect(page.getByText(/Point \d of 2/).first()).toBeVisible()
  await page.getByLabel('Out of point 1').fill('0.8')
  await page.keyboard.press('Enter')

  // a ramp of three stops onto the enamel's colour: red all over
  await add('ramp', 'wl_ramp')
  const bar = page.getByTestId('ramp')
  const b = (await bar.boundingBox())!
  await page.mouse.click(b.x + b.width * 0.4, b.y + 8)
  await expect(page.getByText('Stop 2 of 3').first()).toBeVisible()
  await page.keyboard.press('ArrowRight')
  for (const n of [1, 2, 3]) {
    await page.getByRole('slider', { name: `Stop ${n}` }).focus()
    await page.getByLabel(`Colour of stop ${n}`, { exact: true }).fill('#c01010')
  }
  const green = await bench.colourAt(0.41, 0.8)
  await bench.networkLarge()
  const out = (await bench.card('ramp').locator('.vue-flow__handle.source').boundingBox())!
  const colour = (await bench
    .card('enamel')
    .locator('.vue-flow__handle[data-handleid="base_color"]')
    .boundingBox())!
  await bench.drag(
    { x: out.x + out.width / 2, y: out.y + out.height / 2 },
    { x: colour.x + colour.width / 2, y: colour.y + colour.height / 2 },
    12,
  )
  await bench.key('n')
  await bench.settled(2)
  await expect.poll(async () => apart(await bench.colourAt(0.41, 0.8), green)).toBeGreaterThan(25)
  const now = await bench.colourAt(0.41, 0.8)
  expect(now[0]!).toBeGreaterThan(now[1]! * 1.5)
})

test(
  'nodes are grouped, opened in place, wired across the edge and taken apart, and the picture stays; ' +
    'wires keep clear of cards',
  async ({ page }) => {
    const bench = new BenchPage(page)
    await bench.open('Skerry lantern')
    await bench.layer('Enamel').click()
    const green = await bench.colourAt(0.41, 0.8)
    await bench.networkLarge()
    await bench.card('fine').click()
    await bench.card('speckle').click({ modifiers: ['Control'] })
    await bench.card('enamel_colour').click({ modifiers: ['Control'] })
    await bench.key('Shift+G')
    await expect(bench.card('group/speckle')).toBeVisible()
    await expect(bench.card('group/enamel_colour')).toBeVisible()
    await expect(bench.card('enamel_colour')).toHaveCount(0)
    await expect(page.locator('.fault')).toHaveCount(0)

    // no wire runs through a card, whatever is open
    const crossings = () =>
      page.evaluate(() => {
        const cards = [...document.querySelectorAll('.vue-flow__node-card')].map(c =>
          (c.firstElementChild as HTMLElement).getBoundingClientRect(),
        )
        let n = 0
        for (const p of document.querySelectorAll<SVGPathElement>('.wire .line')) {
          const length = p.getTotalLength()
          const m = p.getScreenCTM()!
          for (let s = 0; s <= length; s += 3) {
            const q = p.getPointAtLength(s).matrixTransform(m)
            if (cards.some(r => q.x > r.left + 1 && q.x < r.right - 1 && q.y > r.top + 1 && q.y < r.bottom - 1))
              n++
          }
        }
        return { n, wires: document.querySelectorAll('.wire .line').length }
      })
    const open = await crossings()
    expect(open.wires).toBeGreaterThan(15)
    expect(open.n).toBe(0)

    // a node inside is changed like any other, and the picture follows
    await bench.card('group/enamel_colour').click()
    await bench.property('fg').getByLabel('Fg', { exact: true }).fill('#d0c020')
    await bench.property('bg').getByLabel('Bg', { exact: true }).fill('#d0c020')
    await bench.key('n')
    await bench.settled(2)
    await expect.poll(async () => apart(await bench.colourAt(0.41, 0.8), green)).toBeGreaterThan(25)
    await bench.settled(6)
    const yellow = await bench.colourAt(0.41, 0.8)
    await bench.networkLarge()

    // closed it is one card; by keys it opens and is taken apart
    await page.getByRole('button', { name: 'Close the group group' }).click()
    await expect(bench.card('group/speckle')).toHaveCount(0)
    await expect(bench.card('group')).toContainText('group')
    expect((await crossings()).n).toBe(0)
    await bench.card('group').click()
    await bench.key('o')
    await expect(bench.card('group/speckle')).toBeVisible()
    await bench.key('Shift+U')
    await expect(bench.card('speckle')).toBeVisible()
    await expect(bench.card('group')).toHaveCount(0)
    await bench.key('n')
    await bench.settled(2)
    await expect.poll(async () => apart(await bench.colourAt(0.41, 0.8), yellow)).toBeLessThan(14)

    // surfaces stay outside, in words
    await bench.networkLarge()
    await bench.card('enamel').click()
    await bench.key('Shift+G')
    await expect(page.getByText('surfaces stay outside groups').first()).toBeVisible()
  },
)
