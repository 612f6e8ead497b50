import { expect, test, type Locator } from '@playwright/test'
import { countActions } from './actions'
import { BenchPage } from './bench-page'
import { BASE, FIXTURES, serveTests } from './server'

serveTests(test)

test('a wall of eight triangles about a window gets a pattern of three centimetres, in 14 actions', async ({
  page,
}) => {
  const count = await countActions(page)
  const bench = new BenchPage(page)
  const triangles = page.getByTestId('triangles')
  const shape = page.getByRole('group', { name: 'Shape' })
  const field = (label: string): Locator => shape.getByRole('textbox', { name: label, exact: true })
  const enter = async (label: string, value: string) => {
    await field(label).click()
    await page.keyboard.type(value)
    await page.keyboard.press('Enter')
  }
  /** Spots in the middle of the wall's four sides, and in the window: what is there, as the pointer is told. */
  const seen = () => bench.spotsSeen([0.5, 0.28], [0.4, 0.5], [0.62, 0.5], [0.5, 0.72], [0.5, 0.5])

  await page.goto(BASE)
  await page.getByTestId('new-project').setInputFiles(`${FIXTURES}/wall.obj`)
  await page.getByTestId('unit-question').getByRole('button', { name: 'A metre' }).click({ timeout: 60_000 })
  await expect(page).toHaveURL(/\/bench\//, { timeout: 60_000 })
  await bench.settled()
  await expect(triangles).toHaveText(/^8 · /)
  await bench.pickStock()
  await shape.getByRole('button', { name: 'Displace' }).click()
  await bench.settled()
  await expect(field('Amount')).toHaveValue('30 mm')
  await bench.key('/')
  await expect(page.getByPlaceholder(/A node, part/)).toBeFocused()
  await bench.takeHit('worleynoise3d')
  await expect(bench.card('worleynoise3d')).toBeVisible()
  await bench.pickStock()
  await shape.getByRole('button', { name: 'Drive Height by a node' }).click()
  await shape.getByLabel('Node that drives Height').selectOption('worleynoise3d')
  await enter('Longest edge', '12 mm')
  await bench.settled(8)
  // cut to edges of 12 mm: 8 m² are some 100,000 triangles and more
  const thousands = async () => Number(/^(\d+) k · \d+ MiB$/.exec((await triangles.textContent()) ?? '')?.[1])
  expect(await thousands()).toBeGreaterThan(90)
  expect(await thousands()).toBeLessThan(400)
  // the file, and what is chosen from a list of the browser's, make no event
  expect(2 + (await count.since())).toBeLessThanOrEqual(14)
  expect(await seen()).toEqual(['Wall', 'Wall', 'Wall', 'Wall', ''])

  // less is less, and undone; the picture follows
  /** How much spots of one side differ: a wall that is moved has lit and shaded slopes. */
  const contrast = async () => {
    const spots = await Promise.all([0.37, 0.38, 0.39, 0.4, 0.41].map(x => bench.colourAt(x, 0.5, 2)))
    const greys = spots.map(c => c[1]!)
    return Math.max(...greys) - Math.min(...greys)
  }
  const rough = await contrast()
  await enter('Amount', '0')
  await bench.settled(8)
  expect(rough).toBeGreaterThan(2 * (await contrast()))
  await bench.key('Control+z')
  await expect(field('Amount')).toHaveValue('30 mm')
  // larger triangles come first
  await bench.settled()
  expect(await thousands()).toBeGreaterThan(90)

  // kept with the project: it opens as it was left
  await bench.key('Control+s')
  await expect(page.getByText(/v2 saved/).first()).toBeVisible()
  const before = await triangles.textContent()
  await page.reload()
  await bench.settled()
  await expect(triangles).toHaveText(before!)
  await bench.pickStock()
  await expect(field('Longest edge')).toHaveValue('12 mm')
  await shape.getByRole('button', { name: 'take off' }).click()
  await expect(triangles).toHaveText(/^8 · /)
})

test('a part is subdivided: three steps make a round shape of a box, sharp edges keep it', async ({ page }) => {
  const bench = new BenchPage(page)
  const triangles = page.getByTestId('triangles')
  const shape = page.getByRole('group', { name: 'Shape' })
  await page.goto(BASE)
  await page.getByTestId('new-project').setInputFiles(`${FIXTURES}/crate.obj`)
  await page.getByTestId('unit-question').getByRole('button', { name: 'A metre' }).click({ timeout: 60_000 })
  await expect(page).toHaveURL(/\/bench\//, { timeout: 60_000 })
  await bench.settled()
  await expect(triangles).toHaveText(/^12 · /)
  // near the upper corner that faces the camera
  const corner = () => bench.spotsSeen([0.5, 0.28])
  expect(await corner()).toEqual(['Crate'])
  // edges over the picture, on a key: of twelve triangles some lines, of 768 many more
  const edges = page.getByTestId('triangle-edges')
  const inked = () =>
    edges.evaluate((e: HTMLCanvasElement) => {
      const { data } = e.getContext('2d')!.getImageData(0, 0, e.width, e.height)
      return data.filter((x, i) => i % 4 === 3 && x > 128).length
    })
  await bench.key('Shift+E')
  await expect(edges).toHaveAttribute('data-stands', 'true')
  const few = await inked()
  expect(few).toBeGreaterThan(200)
  await bench.pickStock()
  await bench.choose(shape.getByLabel('Subdivision'), '3 steps')
  await bench.settled()
  await expect(triangles).toHaveText(/^768 · /)
  await expect.poll(inked).toBeGreaterThan(2 * few)
  await bench.key('Shift+E')
  await expect(edges).toHaveCount(0)
  await bench.choose(shape.getByLabel('Sharp edges'), 'above 60°')
  await bench.settled()
  await expect(triangles).toHaveText(/^768 · /)
  expect(await corner()).toEqual(['Crate'])
  await bench.choose(shape.getByLabel('Subdivision'), 'none')
  await expect(triangles).toHaveText(/^12 · /)
})
