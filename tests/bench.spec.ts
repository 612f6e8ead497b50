import { expect, test } from '@playwright/test'
import { apart, BenchPage } from './bench-page'
import { BASE, serveTests } from './server'

serveTests(test)

test('layers are thickened, doubled, moved and shown alone by mouse and by keys; A–A is dragged on the model', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  const titles = () => page.locator('button[data-layer]').evaluateAll(all => all.map(b => b.getAttribute('title')))
  await bench.open('Skerry lantern')
  const before = await titles()
  expect(before).toEqual(['Edge wear', 'Chipped to the primer', 'Enamel', 'Primer', 'Steel, raw stock'])

  // an interface dragged upwards makes the layer thicker, by as much as the scale says
  const surface = page.locator('[data-interface="enamelled"]')
  const at = (await surface.boundingBox())!
  await bench.drag({ x: at.x + 60, y: at.y + at.height / 2 }, { x: at.x + 60, y: at.y + at.height / 2 - 40 })
  const thickness = bench.property('thickness').getByLabel('Thickness', { exact: true })
  await expect.poll(async () => parseFloat(await thickness.inputValue())).toBeGreaterThan(150)
  await bench.key('Control+z')
  await expect(thickness).toHaveValue('120 µm')
  await surface.focus()
  await page.keyboard.press('ArrowUp')
  await expect(thickness).toHaveValue('126 µm')
  await bench.key('Control+z')

  // a copy on top, moved under the primer by dragging its label, and back up by keys
  await bench.layer('Enamel').click()
  await bench.key('d')
  await expect(bench.layer('Enamel 2')).toBeVisible()
  const label = (await bench.layer('Enamel 2').boundingBox())!
  const primer = (await bench.layer('Steel, raw stock').boundingBox())!
  await bench.drag({ x: label.x + 20, y: label.y + 10 }, { x: primer.x + 20, y: primer.y + 8 }, 12)
  await expect.poll(async () => (await titles()).indexOf('Enamel 2')).toBe((await titles()).indexOf('Primer') + 1)
  await bench.layer('Enamel 2').focus()
  await page.keyboard.press('Alt+ArrowUp')
  await expect.poll(async () => (await titles()).indexOf('Enamel 2')).toBe((await titles()).indexOf('Primer') - 1)
  await bench.key('Control+z')
  await bench.key('Control+z')
  await bench.key('Control+z')
  await expect.poll(titles).toEqual(before)

  // what cannot be is refused with the reason, and nothing changes
  await bench.layer('Edge wear').focus()
  for (let i = 0; i < 4; i++) await page.keyboard.press('Alt+ArrowDown')
  await expect(page.getByText(/stay above it|nothing left to take away/).first()).toBeVisible()
  while (!(await page.getByTestId('save-state').textContent())!.includes('saved')) await bench.key('Control+z')

  const green = await bench.colourAt(0.41, 0.8)
  await bench.layer('Primer').click()
  await bench.key('a')
  await expect(page.getByTestId('shown')).toContainText('layer alone')
  await bench.settled(2)
  await expect.poll(async () => apart(await bench.colourAt(0.41, 0.8), green)).toBeGreaterThan(12)
  await bench.key('a')
  await bench.settled(1)

  // the section line: both ends move, and the drawing says how wide the cut is
  const width = async () =>
    parseFloat(
      /A–A, ([\d.]+) mm/.exec((await page.getByLabel('Cross-section').first().textContent()) ?? '')?.[1] ?? '0',
    )
  await expect.poll(width).toBeGreaterThan(10)
  const first = await width()
  const end = (await page.getByTestId('section-end').boundingBox())!
  await bench.drag(
    { x: end.x + end.width / 2, y: end.y + end.height / 2 },
    { x: end.x + end.width / 2 - 45, y: end.y + end.height / 2 + 4 },
  )
  await expect.poll(width).toBeLessThan(first * 0.75)
  await page.getByTestId('section-end').focus()
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight')
  await expect.poll(width).toBeGreaterThan(first * 0.75)
})

test(
  'a test strip shows a number in steps, and a click takes one; checks find and mend; cards show their ' +
    'pictures; the view is denoised',
  async ({ page }) => {
    const bench = new BenchPage(page)
    await bench.open('Skerry lantern')
    await bench.layer('Enamel').click()
    await bench.property('specular_roughness').hover()
    await bench.key('t')
    const strip = page.getByTestId('test-strip')
    await expect(strip.getByRole('button', { name: /0\.14, as it is/ })).toBeVisible()
    await expect(strip).toContainText(/(8|12|16|20|24) samples/, { timeout: 60_000 })
    // glossy and matt differ where the strip light is mirrored
    const pictures = await strip.locator('canvas').evaluateAll(all =>
      all.map(c => {
        const d = (c as HTMLCanvasElement).getContext('2d')!.getImageData(0, 0, 120, 120).data
        let s = 0
        for (let i = 0; i < d.length; i += 4) s += d[i]! * (i % 401)
        return s
      }),
    )
    expect(new Set(pictures).size).toBe(5)
    await strip.getByRole('button', { name: '0.5' }).click()
    const roughness = bench.property('specular_roughness').getByLabel('Roughness', { exact: true })
    await expect(roughness).toHaveValue('0.5')
    await bench.key('Control+z')
    await expect(roughness).toHaveValue('0.14')

    await roughness.fill('1.4')
    await roughness.press('Enter')
    await expect(page.getByTestId('checks')).toContainText('Checks · 1')
    await expect(page.getByTestId('finding')).toContainText('specular roughness of enamel is 1.4; it takes 0 to 1')
    await expect(page.locator('[aria-label="Cross-section"] .check')).toBeVisible()
    await page.getByTestId('finding').getByRole('button', { name: 'Set it to 1' }).click()
    await expect(roughness).toHaveValue('1')
    await expect(page.getByTestId('checks')).not.toContainText('·')

    await bench.refined(4)
    await expect(page.getByTestId('shown')).toContainText('denoised at', { timeout: 60_000 })
    await bench.key('g')
    await expect(page.getByTestId('shown')).toContainText('as computed')
    await bench.key('g')
    await expect
      .poll(() => page.locator('.vue-flow__node img.picture').count(), { timeout: 60_000 })
      .toBeGreaterThan(2)

    await bench.key('i')
    const box = (await bench.view().boundingBox())!
    await page.mouse.move(box.x + 30, box.y + 30)
    // the backdrop is L* 50
    await expect(page.getByTestId('probe')).toContainText(
      /background · linear 0\.184 0\.184 0\.184 · display 119 119 119 · Lab 50\.0 /,
    )
    await bench.key('Shift+T')
    await expect(page.locator('html')).toHaveAttribute('data-theme', 'dim')
    await page.reload()
    await expect(page.locator('html')).toHaveAttribute('data-theme', 'dim')
  },
)

test('projects are searched, renamed, duplicated, deleted and brought back', async ({ page }) => {
  await page.goto(BASE)
  const card = (name: string) => page.getByRole('link', { name: new RegExp(`^${name} v`) })
  await page.getByRole('button', { name: 'Duplicate Skerry lantern', exact: true }).first().click()
  await expect(card('Skerry lantern copy')).toBeVisible()
  await page.getByRole('button', { name: 'Rename Skerry lantern copy' }).click()
  const hostile = '<b>Lantern</b> & "notes" — a name that is much longer than a card is wide'
  await page.getByLabel('New name of Skerry lantern copy').fill(hostile)
  await page.keyboard.press('Enter')
  await expect(page.getByText(hostile)).toBeVisible()
  await page.getByLabel('Search projects').fill('notes')
  await expect(page.locator('main li')).toHaveCount(1)
  await page.getByLabel('Search projects').fill('no such thing')
  await expect(page.getByText('No project is called like')).toBeVisible()
  await page.getByLabel('Search projects').fill('')
  await page.getByRole('button', { name: `Delete ${hostile}` }).click()
  await expect(page.getByText(hostile, { exact: true })).toHaveCount(0)
  await page.getByRole('button', { name: 'Bring back' }).click()
  await expect(page.getByText(hostile, { exact: true })).toBeVisible()
  await page.getByRole('button', { name: `Delete ${hostile}` }).click()
  await expect(page.getByText(hostile, { exact: true })).toHaveCount(0)
})

test('a model brings its own materials as networks, and what has no equivalent is said', async ({ page }) => {
  const bench = new BenchPage(page)
  await page.goto(BASE)
  await bench.drop(page.locator('main'), 'float.glb')
  await bench.view().waitFor()
  await bench.refined(1)
  // what was lost is there to be read until it is closed
  await expect(page.getByText('1 part, 1 material')).toBeVisible()
  const lost = page.getByRole('listitem').filter({ hasText: 'Lacquer: the baked occlusion map is left out' })
  await expect(lost).toBeVisible()
  await page.getByRole('button', { name: 'Close' }).click()
  await expect(lost).toBeHidden()
  await expect(page.getByLabel('Material of Float')).toHaveText('Lacquer')
  await expect(bench.property('base_color')).toContainText('colour_map')
  await expect(bench.property('base_color')).toContainText('srgb_texture')
  await expect(bench.property('specular_roughness').getByLabel('Roughness', { exact: true })).toHaveValue('0.25')
  await bench.settled(4)
  // both colours of the map are seen
  const box = (await bench.view().boundingBox())!
  const colours: number[] = []
  for (let i = 0; i < 16; i++) colours.push((await bench.colourAt(0.5 + (i - 8) * 0.012, 0.5, 2))[0]!)
  expect(Math.max(...colours) - Math.min(...colours), `in a view ${box.width} wide`).toBeGreaterThan(60)
})

test('without a model a project begins with a test piece, by the keyboard alone', async ({ page }) => {
  const bench = new BenchPage(page)
  await page.goto(BASE)
  const button = page.getByRole('button', { name: 'from a test piece' })
  await button.focus()
  await page.keyboard.press('Enter')
  const pieces = page.getByRole('menuitem')
  await expect(pieces).toHaveCount(8)
  await expect(pieces.first()).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(button).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(pieces.first()).toBeFocused()
  await page.keyboard.press('End')
  await page.keyboard.press('Enter')
  await bench.view().waitFor()
  await bench.refined(1)
  await expect(page.getByText('Corner of a room', { exact: true }).first()).toBeVisible()
  for (const part of ['Floor', 'Wall', 'Window wall', 'Sill'])
    await expect(page.getByRole('button', { name: `Hide ${part}`, exact: true })).toBeVisible()
  await expect(page.getByLabel('Material of Floor')).toHaveText('Plastic')
  expect(Math.max(...(await bench.colourAt(0.5, 0.5, 3)))).toBeGreaterThan(20)
})
