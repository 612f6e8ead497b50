import { AxeBuilder } from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { BenchPage } from './bench-page'
import { BASE, serveTests } from './server'

serveTests(test)

/** Faults that the automated check finds in a part of the page, in each theme. */
async function faults(page: Page, of: string): Promise<string[]> {
  const all: string[] = []
  for (const theme of ['dim', 'light', 'neutral']) {
    await page.evaluate(t => void (document.documentElement.dataset.theme = t), theme)
    const { violations } = await new AxeBuilder({ page }).include(of).analyze()
    all.push(...violations.map(v => `${theme}: ${v.id}: ${v.nodes.map(n => n.target.join(' ')).join(', ')}`))
  }
  return all
}
/** Text of what has the focus. */
const focused = (page: Page) => page.evaluate(() => document.activeElement?.textContent?.trim() ?? '')

test('find-or-add by keyboard: typed at once, ranked, walked, left and chosen', async ({ page }) => {
  const bench = new BenchPage(page)
  await bench.openStill('Skerry lantern')
  const field = page.getByRole('combobox', { name: 'Find or add' }).or(page.getByPlaceholder(/A node, part/))
  const lights = await page.getByLabel('Light rig', { exact: true }).textContent()
  // what is typed with the key that opens it is no action of the bench: L is the next lights
  await bench.key('/')
  await page.keyboard.type('cellnoise')
  await expect(field).toHaveValue('cellnoise')
  await expect(field).toBeFocused()
  expect(await page.getByLabel('Light rig', { exact: true }).textContent()).toBe(lights)
  const at = page.locator('[role=option][data-highlighted]')
  await expect(at).toContainText('cellnoise2d')
  expect(await faults(page, '[role=dialog]')).toEqual([])
  await page.keyboard.press('ArrowDown')
  await expect(at).toContainText('cellnoise3d')
  // a pointer that crosses the list marks what it is on, and takes no mark away with it
  await at.hover()
  await page.mouse.move(300, 400)
  await expect(at).toContainText('cellnoise3d')
  await page.keyboard.press('Escape')
  await expect(field).toBeHidden()
  await expect(page.getByTestId('find')).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(field).toBeFocused()
  await expect(field).toHaveValue('')
  await page.keyboard.type('cellnoise')
  await expect(at).toContainText('cellnoise2d')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(bench.card('cellnoise3d')).toBeVisible()
  await expect(field).toBeHidden()
  await bench.key('/')
  await page.keyboard.type('no such thing')
  await expect(page.getByText('Nothing is called “no such thing”.')).toBeVisible()
})

test('menus of the panes, by keyboard and by the right button, which turns the lights when it is dragged', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await bench.openStill('Skerry lantern')
  const menu = page.getByRole('menu')
  /** Opens the menu of what has the focus, walks in it and leaves it: the focus is where it was. */
  const walk = async (item: string) => {
    await page.keyboard.press('Shift+F10')
    await expect(menu).toBeVisible()
    await expect(menu.getByRole('menuitem', { name: item })).toBeVisible()
    await page.keyboard.press('ArrowDown')
    const first = await focused(page)
    await page.keyboard.press('ArrowDown')
    await expect.poll(() => focused(page)).not.toBe(first)
    expect(await faults(page, '[role=menu]')).toEqual([])
    await page.keyboard.press('Escape')
    await expect(menu).toHaveCount(0)
  }
  await bench.part('Bezel').focus()
  await walk('Hide')
  await expect(bench.part('Bezel')).toBeFocused()
  await bench.layer('Enamel').focus()
  await walk('Take out')
  await expect(bench.layer('Enamel')).toBeFocused()
  const roughness = bench.property('specular_roughness').getByRole('slider')
  await bench.layer('Enamel').click()
  await roughness.focus()
  await page.keyboard.press('ArrowRight')
  await expect(bench.property('specular_roughness').getByLabel('Roughness', { exact: true })).not.toHaveValue(
    '0.14',
  )

  // a part is hidden by its menu
  await bench.part('Ring').click({ button: 'right' })
  await menu.getByRole('menuitem', { name: 'Hide' }).click()
  await expect(page.getByRole('button', { name: 'Show Ring', exact: true })).toBeVisible()

  // a layer is laid on another
  await bench.layer('Enamel').click({ button: 'right' })
  await page.getByRole('menuitem', { name: /Clear coat/ }).click()
  await expect(bench.layer('Clear coat')).toBeVisible()

  // a card is tapped
  await bench.networkLarge()
  await bench.card('speckle').click({ button: 'right' })
  await menu.getByRole('menuitem', { name: /^Tap/ }).click()
  await expect(page.getByTestId('shown')).toContainText('tap: speckle')
  await bench.networkLarge()

  // in the picture: let go where it went down it is a menu, dragged it turns the lights
  const box = (await bench.view().boundingBox())!
  const middle = { x: box.x + box.width / 2, y: box.y + box.height * 0.55 }
  await page.mouse.click(middle.x, middle.y, { button: 'right' })
  await expect(menu).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(menu).toHaveCount(0)
  const turn = await page.getByTestId('turn').textContent()
  await page.mouse.move(middle.x, middle.y)
  await page.mouse.down({ button: 'right' })
  await page.mouse.move(middle.x + 80, middle.y, { steps: 4 })
  await page.mouse.up({ button: 'right' })
  await expect(page.getByTestId('turn')).not.toHaveText(turn!)
  await expect(menu).toHaveCount(0)
})

test('panels are moved by their head and by arrow keys, docked beside the picture, and found there again', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await bench.open('Skerry lantern')
  const panel = page.getByTestId('lens-panel')
  const place = async () => (await panel.boundingBox())!
  await bench.key('Shift+J')
  const first = await place()
  await bench.drag({ x: first.x + 40, y: first.y + 12 }, { x: first.x + 260, y: first.y - 60 })
  await expect.poll(async () => (await place()).x - first.x).toBeGreaterThan(200)
  await page.getByRole('button', { name: 'Move: Lens' }).focus()
  const moved = await place()
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('ArrowUp')
  await expect.poll(async () => Math.round((await place()).x - moved.x)).toBe(-16)
  await expect.poll(async () => Math.round((await place()).y - moved.y)).toBe(-16)
  // the picture is turned beside it
  const epoch = await bench.epoch()
  const box = (await bench.view().boundingBox())!
  await bench.drag({ x: box.x + 30, y: box.y + box.height - 40 }, { x: box.x + 90, y: box.y + box.height - 40 })
  await expect.poll(bench.epoch).toBeGreaterThan(epoch)

  // beside the picture, which becomes narrower
  const dock = page.getByRole('button', { name: 'Beside the picture: Lens' })
  await dock.focus()
  await page.keyboard.press('Enter')
  const over = page.getByRole('button', { name: 'Over the picture: Lens' })
  await expect(over).toBeFocused()
  await expect.poll(async () => (await bench.view().boundingBox())!.width).toBeLessThan(box.width - 250)
  const [p, v] = [await place(), (await bench.view().boundingBox())!]
  expect(p.x >= v.x + v.width - 1 || p.x + p.width <= v.x + 1).toBe(true)
  await page.reload()
  await bench.refined(1)
  await bench.key('Shift+J')
  await expect(over).toBeVisible()
  await expect.poll(async () => (await bench.view().boundingBox())!.width).toBeLessThan(box.width - 250)
  await over.click()
  await expect.poll(async () => Math.round((await place()).x - moved.x)).toBe(-16)
  await page.keyboard.press('Escape')
  await expect(panel).toBeHidden()
})

test('projects as a table, in an order, remembered; tables of the library and of versions by keyboard', async ({
  page,
}) => {
  await page.goto(BASE)
  await page.getByRole('button', { name: 'Duplicate Skerry lantern', exact: true }).first().click()
  const copy = page.getByRole('link', { name: /^Skerry lantern copy/ })
  await expect(copy.first()).toBeVisible()
  await page.getByRole('button', { name: 'As a table' }).focus()
  await page.keyboard.press('Enter')
  const table = page.getByRole('table', { name: 'Projects' })
  await expect(table).toBeVisible()
  expect(await faults(page, 'main')).toEqual([])
  const bench = new BenchPage(page)
  await bench.choose(page.getByLabel('Order of the projects'), 'by name')
  const names = () => table.locator('a').allTextContents()
  await expect.poll(async () => (await names()).length).toBeGreaterThan(1)
  const listed = await names()
  expect(listed.map(n => n.trim())).toEqual(listed.map(n => n.trim()).sort((a, b) => a.localeCompare(b)))
  await page.reload()
  await expect(table).toBeVisible()
  await expect(page.getByLabel('Order of the projects')).toHaveText('by name')

  // a name that cannot be is said beside the field, and the right one taken
  await table
    .getByRole('row', { name: /Skerry lantern copy/ })
    .first()
    .click({ button: 'right' })
  await page.getByRole('menuitem', { name: 'Rename' }).click()
  const name = page.getByLabel('New name of Skerry lantern copy').first()
  await expect(name).toBeFocused()
  await name.fill('   ')
  await page.keyboard.press('Enter')
  await expect(page.getByText('a project needs a name')).toBeVisible()
  await name.fill('Lantern in a table')
  await page.keyboard.press('Enter')
  await expect(table.getByRole('link', { name: 'Lantern in a table' })).toBeVisible()
  await table.getByRole('link', { name: 'Lantern in a table' }).focus()
  await page.getByRole('button', { name: 'Delete Lantern in a table' }).press('Enter')
  await expect(table.getByRole('link', { name: 'Lantern in a table' })).toHaveCount(0)
  // Esc takes no offer away
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Bring back' }).click()
  await expect(table.getByRole('link', { name: 'Lantern in a table' })).toBeVisible()
  await page.getByRole('button', { name: 'Delete Lantern in a table' }).press('Enter')
  await expect(table.getByRole('link', { name: 'Lantern in a table' })).toHaveCount(0)
  await page.getByRole('button', { name: 'As cards' }).click()
  await expect(page.getByRole('list', { name: 'Projects' })).toBeVisible()

  // the library: rows are reached and picked by keys, and say what uses them
  await page.goto(`${BASE}/library`)
  await page.locator('[data-specimen="metal:nickel"]').focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Curves of Nickel' })).toBeVisible()
  await expect(page.getByTestId('used-by')).toContainText('Skerry lantern')
  await expect.poll(() => page.locator('.chart svg path').count()).toBeGreaterThan(10)
  expect(await faults(page, '.specimens')).toEqual([])
  await page.getByRole('tab', { name: 'Starters' }).focus()
  await page.keyboard.press('Enter')
  await page.getByLabel('Search starters').fill('glass')
  await expect(page.getByRole('table', { name: 'What the library has' }).getByRole('row')).not.toHaveCount(1)
  await page.getByLabel('Search starters').fill('no such thing')
  await expect(page.getByText('Nothing is called that.')).toBeVisible()

  // versions: read, walked and taken back by keys
  await bench.openStill('Skerry lantern')
  await page.getByTestId('save-state').focus()
  await page.keyboard.press('Enter')
  const versions = page.getByRole('table', { name: 'Versions' })
  await expect(versions.getByRole('row', { name: /^.*v1/ }).first()).toBeVisible()
  expect(await faults(page, '[role=dialog]')).toEqual([])
  await versions.getByRole('button', { name: 'Restore v1', exact: true }).press('Enter')
  await expect(versions).toBeHidden()
})
