import { expect, test } from '@playwright/test'
import { BenchPage } from './bench-page'
import { serveTests } from './server'

serveTests(test)

/** Adds a node by find-or-add. */
async function add(bench: BenchPage, what: string): Promise<void> {
  await bench.key('/')
  await bench.takeHit(what)
  await expect(bench.card(what)).toHaveClass(/selected/)
}

test('a pattern begins at a size that suits the part, and on a length has levels in its unit', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await bench.openStill('Skerry lantern')
  const field = (input: string, label: string) => bench.property(input).getByLabel(label, { exact: true })
  await add(bench, 'noise3d')
  await expect(bench.property('position')).toContainText('field')
  // its own picture has light and dark: it is not black
  const canvas = bench.card('noise3d').locator('img.picture')
  const spread = () =>
    canvas.evaluate(c => {
      const { naturalWidth: width, naturalHeight: height } = c as HTMLImageElement
      const paper = new OffscreenCanvas(width, height).getContext('2d')!
      paper.drawImage(c as HTMLImageElement, 0, 0)
      const { data } = paper.getImageData(0, 0, width, height)
      const all = Array.from({ length: width * height }, (_, i) => data[i * 4]!)
      return Math.max(...all) - Math.min(...all)
    })
  await expect.poll(spread).toBeGreaterThan(60)
  await bench
    .property('position')
    .getByRole('button', { name: /^Driven by/ })
    .click()
  await expect(field('size', 'Size')).toHaveValue(/^\d+ mm$/)
  await field('size', 'Size').fill('5 mm')
  await field('size', 'Size').press('Enter')
  await expect(field('size', 'Size')).toHaveValue('5 mm')

  // on a film: levels, whose ends are in nanometres about what the film was
  await bench.layer('Enamel').click()
  await field('thin_film_weight', 'Film').fill('1')
  await field('thin_film_weight', 'Film').press('Enter')
  await field('thin_film_thickness', 'Film thickness').fill('400 nm')
  await field('thin_film_thickness', 'Film thickness').press('Enter')
  const film = bench.property('thin_film_thickness')
  await film.getByRole('button', { name: 'Drive Film thickness by a node' }).click()
  await film.getByLabel('Node that drives Film thickness').selectOption('noise3d')
  await film.getByRole('button', { name: /^Driven by/ }).click()
  await expect(page.getByTestId('levels')).toBeVisible()
  await expect(field('outlow', 'Out, low')).toHaveValue('200 nm')
  await expect(field('outhigh', 'Out, high')).toHaveValue('600 nm')
  await field('outhigh', 'Out, high').fill('0.7 µm')
  await field('outhigh', 'Out, high').press('Enter')
  await expect(field('outhigh', 'Out, high')).toHaveValue('700 nm')
  await field('outlow', 'Out, low').fill('-3')
  await field('outlow', 'Out, low').press('Enter')
  await expect(bench.property('outlow').getByRole('alert')).toContainText('not below 0')
  await bench.key('Escape')
  // plain numbers stay plain
  await expect(field('inhigh', 'In, high')).toHaveValue('1')
})

test('an image lies in centimetres, drives a coat’s thickness, and is height on a normal until told', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await bench.openStill('Skerry lantern')
  await bench.layer('Enamel').click()
  await bench.drop(bench.property('base_color'), 'check.png')
  await expect(bench.property('base_color')).toContainText('check ▸')
  await bench
    .property('base_color')
    .getByRole('button', { name: /^Driven by/ })
    .click()
  await bench
    .property('texcoord')
    .getByRole('button', { name: /^Driven by/ })
    .click()
  const placement = page.getByTestId('placement')
  const tile = (axis: 'u' | 'v') => placement.getByLabel(`Tile, along ${axis}`, { exact: true })
  await expect(tile('u')).toHaveValue(/ cm$/)
  const [u, v] = [parseFloat(await tile('u').inputValue()), parseFloat(await tile('v').inputValue())]
  await tile('u').fill('2 cm')
  await tile('u').press('Enter')
  await expect(tile('u')).toHaveValue('2 cm')
  // in proportion
  expect(parseFloat(await tile('v').inputValue())).toBeCloseTo((v * 2) / u, 1)
  await placement.getByLabel('counted').click()
  const count = placement.getByLabel('Tiles, along u', { exact: true })
  expect(Number(await count.inputValue())).toBeCloseTo(u / 2, 1)
  await placement.getByLabel('counted').click()
  await placement.getByLabel('Turn', { exact: true }).fill('45°')
  await placement.getByLabel('Turn', { exact: true }).press('Enter')
  await placement.getByLabel('Offset, right', { exact: true }).fill('5 mm')
  await placement.getByLabel('Offset, right', { exact: true }).press('Enter')
  await expect(placement.getByLabel('Offset, right', { exact: true })).toHaveValue('0.5 cm')
  await expect(tile('u')).toHaveValue('2 cm')

  // grey on a normal is height
  await bench.layer('Enamel').click()
  const normal = bench.property('geometry_normal')
  await bench.drop(normal, 'grey.png')
  await expect(normal).toContainText('taken as height')
  await normal.getByRole('button', { name: 'Take it as normals' }).click()
  await expect(normal).toContainText('taken as normals')
  await bench.key('Control+z')
  await expect(normal).toContainText('taken as height')

  // a coat's thickness by a map
  await bench.layer('Enamel').click({ button: 'right' })
  await page.getByRole('menuitem', { name: /Clear coat/ }).click()
  await bench.layer('Clear coat').click()
  const thickness = bench.property('thickness')
  await expect(thickness.getByLabel('Thickness', { exact: true })).toHaveValue('40 µm')
  await bench.drop(thickness, 'grey.png')
  await expect(thickness).toContainText('range ▸')
  await thickness.getByRole('button', { name: /^Driven by/ }).click()
  await expect(bench.property('outlow').getByLabel('Out, low', { exact: true })).toHaveValue('20 µm')
  await expect(bench.property('outhigh').getByLabel('Out, high', { exact: true })).toHaveValue('60 µm')

  // a deposit's too: what lies below shows through where it is thin
  await bench.layer('Enamel').click()
  await expect(thickness.getByLabel('Thickness', { exact: true })).toHaveValue(/ µm$/)
  await bench.drop(thickness, 'grey.png')
  await expect(thickness).toContainText(/range\d* ▸/)
  await thickness.getByRole('button', { name: 'Unplug Thickness' }).click()
  await thickness.getByLabel('Thickness', { exact: true }).fill('10 µm')
  await thickness.getByLabel('Thickness', { exact: true }).press('Enter')
  await expect(page.getByRole('region', { name: 'Cross-section' }).getByTitle(/^10 µm/)).toBeVisible()
})
