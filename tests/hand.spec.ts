import { expect, test } from '@playwright/test'
import { BenchPage } from './bench-page'
import { FIXTURES, serveTests } from './server'

serveTests(test)
/** Another picture. */
const OTHER = 'reference.png'

test('values by hand: finer with Shift, stepped, multiplied, given back, and refused in words', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await bench.openStill('Skerry lantern')
  await bench.layer('Enamel').click()
  const row = bench.property('specular_roughness')
  const field = row.getByLabel('Roughness', { exact: true })
  const slider = row.getByRole('slider')
  const value = async () => Number(await field.inputValue())
  await field.fill('0.5')
  await field.press('Enter')
  const box = (await slider.boundingBox())!
  const middle = box.y + box.height / 2
  /** Drags the thumb, which stands in the middle, by a quarter of the width. */
  const drag = async () => {
    await page.mouse.move(box.x + box.width / 2, middle)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width * 0.75, middle, { steps: 5 })
    await page.mouse.up()
  }
  await drag()
  await expect.poll(value).toBeCloseTo(0.75, 1)
  await field.fill('0.5')
  await field.press('Enter')
  await page.keyboard.down('Shift')
  await drag()
  await page.keyboard.up('Shift')
  await expect.poll(value).toBeCloseTo(0.525, 2)

  await field.fill('0.5')
  await field.press('Enter')
  await field.press('ArrowUp')
  await expect.poll(value).toBeCloseTo(0.51, 5)
  await field.press('Shift+ArrowDown')
  await expect.poll(value).toBeCloseTo(0.509, 5)
  await field.fill('0.5')
  await field.press('Enter')
  for (const [typed, becomes] of [
    ['*1.2', 0.6],
    ['/2', 0.3],
    ['+10 %', 0.33],
  ] as const) {
    await field.fill(typed)
    await field.press('Enter')
    await expect.poll(value, typed).toBeCloseTo(becomes, 5)
  }
  // what cannot be read stays there, with the reason
  await field.fill('soft')
  await field.press('Enter')
  await expect(row.getByRole('alert')).toHaveText('“soft” is no number')
  await expect(field).toHaveValue('soft')
  await field.press('Escape')
  await expect(row.getByRole('alert')).toHaveCount(0)
  await expect.poll(value).toBeCloseTo(0.33, 5)
  // the standard's roughness
  await slider.dblclick()
  await expect.poll(value).toBeCloseTo(0.3, 5)
  // by its menu it is as it comes
  await field.fill('0.9')
  await field.press('Enter')
  await row.getByText('Roughness').click({ button: 'right' })
  await page.getByRole('menuitem', { name: 'As it comes' }).click()
  await expect.poll(value).toBeCloseTo(0.3, 5)
})

test('what is picked is what is meant: a box picks cards, Delete takes them and nothing else, one step back', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await bench.openStill('Skerry lantern')
  const cards = page.locator('.vue-flow__node')
  await expect(cards.first()).toBeVisible()
  const layers = await page.locator('button[data-layer]').count()
  const add = async (what: string) => {
    await bench.key('/')
    await bench.takeHit(what)
    await expect(bench.card(what)).toBeVisible()
  }
  await bench.networkLarge()
  const before = await cards.count()
  // added where no card stands, in sight, with a field each that says how large they are
  await page.getByTestId('network').press('Escape')
  await add('noise3d')
  await add('cellnoise3d')
  await expect(cards).toHaveCount(before + 4)
  const [a, b] = [(await bench.card('noise3d').boundingBox())!, (await bench.card('cellnoise3d').boundingBox())!]
  expect(a.y + a.height <= b.y || b.y + b.height <= a.y || a.x + a.width <= b.x || b.x + b.width <= a.x).toBe(true)

  // a box about both, drawn with Shift from beside them, where no wire runs
  await page.keyboard.down('Shift')
  await bench.drag(
    { x: Math.max(a.x + a.width, b.x + b.width) + 30, y: Math.min(a.y, b.y) - 4 },
    { x: Math.min(a.x, b.x) - 14, y: Math.max(a.y + a.height, b.y + b.height) + 3 },
    12,
  )
  await page.keyboard.up('Shift')
  await expect(bench.card('noise3d')).toHaveClass(/selected/)
  await bench.key('Delete')
  await expect(bench.card('noise3d')).toHaveCount(0)
  await expect(bench.card('cellnoise3d')).toHaveCount(0)
  expect(await page.locator('button[data-layer]').count()).toBe(layers)
  await bench.key('Control+z')
  await expect(cards).toHaveCount(before + 4)

  // another type, with its values
  await bench.card('noise3d').click()
  await bench.networkLarge()
  await bench.choose(page.getByLabel('Type of the node'), 'color3')
  await expect(bench.card('noise3d').locator('.vue-flow__handle.source')).toHaveText('c')
})

test('an unwired placement takes the UV of the part, and says so', async ({ page }) => {
  const bench = new BenchPage(page)
  await bench.openStill('Skerry lantern')
  await bench.key('/')
  await page.keyboard.type('tiling')
  await expect(page.locator('[role=option][data-highlighted]')).toContainText('place2d')
  await page.keyboard.press('Enter')
  await expect(bench.property('texcoord')).toContainText('UV of the part')
  // its picture is no single colour
  const canvas = bench.card('place2d').locator('img.picture')
  await expect(canvas).toBeVisible()
  const colours = () =>
    canvas.evaluate(c => {
      const { naturalWidth: width, naturalHeight: height } = c as HTMLImageElement
      const paper = new OffscreenCanvas(width, height).getContext('2d')!
      paper.drawImage(c as HTMLImageElement, 0, 0)
      const { data } = paper.getImageData(0, 0, width, height)
      return new Set(Array.from({ length: width * height }, (_, i) => data[i * 4]!)).size
    })
  await expect.poll(colours).toBeGreaterThan(10)
})

test('an image added by search gets its picture, and another, by a chooser, by a drop and from the project', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await bench.openStill('Skerry lantern')
  await bench.key('/')
  await page.keyboard.type('texture')
  await expect(page.locator('[role=option][data-highlighted]')).toContainText('image')
  await page.keyboard.press('Enter')
  const row = bench.property('file')
  await expect(row).toContainText('no picture')
  await page.getByTestId('picture-of-file').setInputFiles(`${FIXTURES}/check.png`)
  await expect(row).toContainText('check.png')
  await expect(row).toContainText('64 × 64, 8 bit')
  await expect(row.getByRole('img')).toBeVisible()
  await expect(page.getByLabel('Colour space of the picture of image')).toHaveText('srgb_texture')

  // a drop exchanges the picture: no second node, the space stays as it was set
  const cards = await page.locator('.vue-flow__node').count()
  await bench.choose(page.getByLabel('Colour space of the picture of image'), 'lin_rec709')
  await bench.drop(row, OTHER)
  await expect(row).toContainText(OTHER)
  await expect(page.getByLabel('Colour space of the picture of image')).toHaveText('lin_rec709')
  expect(await page.locator('.vue-flow__node').count()).toBe(cards)

  // what another node has is offered
  await bench.layer('Enamel').click()
  await bench.drop(bench.property('base_color'), 'check.png')
  await expect(bench.property('base_color')).toContainText('srgb_texture')
  await bench.card('image').dispatchEvent('click')
  await row.getByRole('button', { name: 'Choose the picture of image' }).click()
  await page.getByRole('menuitem', { name: 'check.png' }).click()
  await expect(row).toContainText('check.png')
  await bench.key('Control+z')
  await expect(row).toContainText(OTHER)

  // what is no picture is refused, and the one that is there stays
  await bench.drop(row, 'broken.png')
  await expect(page.getByText('broken.png was not read').first()).toBeVisible()
  await expect(row).toContainText(OTHER)
})
