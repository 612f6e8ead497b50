import { expect, test, type Locator, type Page } from '@playwright/test'
import { countActions } from './actions'
import { BenchPage } from './bench-page'
import { BASE, serveTests } from './server'

serveTests(test)

/** The bench of a new project, made by the drop of a model with several parts; its picture stands still. */
async function begin(page: Page): Promise<BenchPage> {
  const bench = new BenchPage(page)
  await page.goto(BASE)
  await bench.drop(page.locator('main'), 'beacon.glb')
  await bench.view().waitFor()
  await bench.refined(1)
  await bench.key('p')
  await expect(page.locator('.vue-flow__node').first()).toBeVisible()
  return bench
}
/** Actions that a new project takes: the drop of its model. */
const MODEL = 1

/** Types into a field that is clicked, and enters it. */
async function enter(field: Locator, value: string): Promise<void> {
  await field.click()
  await field.page().keyboard.type(value)
  await field.press('Enter')
}
/** Takes a node from find-or-add, which is open. @returns its path, once its card stands in sight */
async function takeNode(bench: BenchPage, what: string): Promise<string> {
  const { page } = bench
  await expect(page.getByPlaceholder(/A node, part/)).toBeFocused()
  const known = await page.locator('.vue-flow__node').count()
  await bench.takeHit(what)
  await expect(page.locator('.vue-flow__node')).not.toHaveCount(known)
  const card = page.locator(`.vue-flow__node.selected[data-id^="${what}"]`)
  await expect(card).toBeVisible()
  await bench.networkStill()
  return (await card.getAttribute('data-id'))!
}
/** Adds a node by find-or-add. @returns its path */
async function add(bench: BenchPage, what: string): Promise<string> {
  await bench.key('/')
  return takeNode(bench, what)
}
/** Middle of something on the page. */
async function centre(of: Locator): Promise<{ x: number; y: number }> {
  const b = (await of.boundingBox())!
  return { x: b.x + b.width / 2, y: b.y + b.height / 2 }
}
/** Draws a wire from a card's output to an input of another, which may have no row until it is held over it. */
async function wire(bench: BenchPage, from: string, to: string, input: string): Promise<void> {
  const { page } = bench
  const start = await centre(bench.card(from).locator('.vue-flow__handle.source').first())
  await page.mouse.move(start.x, start.y)
  await page.mouse.down()
  const over = await centre(bench.card(to))
  await page.mouse.move(over.x, over.y, { steps: 6 })
  const handle = bench.card(to).locator(`.vue-flow__handle[data-handleid="${input}"]`)
  await expect(handle).toBeVisible()
  // the canvas moves on while the wire is near its edge: the hand follows
  await expect(async () => {
    const end = await centre(handle)
    await page.mouse.move(end.x, end.y, { steps: 6 })
    const now = await centre(handle)
    expect(Math.hypot(now.x - end.x, now.y - end.y)).toBeLessThan(3)
  }).toPass()
  await page.mouse.up()
  await expect(page.locator(`.wire[data-id$=">${to}.${input}"]`)).toHaveCount(1)
}

/**
 * Draws a wire into the empty beside its card, and adds a node to it that is found there.
 * @param output tab of the card that the wire comes from, the first without it
 * @returns its path
 */
async function addOnto(bench: BenchPage, from: string, what: string, output?: string): Promise<string> {
  const tabs = bench.card(from).locator('.vue-flow__handle.source')
  const tab = output === undefined ? tabs.first() : bench.card(from).locator(`[data-handleid="${output}"]`)
  const start = await centre(tab)
  await bench.drag(start, await emptyNear(bench, start.x, start.y))
  return takeNode(bench, what)
}
/** A spot of the canvas near another where nothing lies. */
async function emptyNear(bench: BenchPage, x: number, y: number): Promise<{ x: number; y: number }> {
  const spot = await bench.page.evaluate(
    ([x, y]) => {
      for (let r = 30; r < 900; r += 20)
        for (const turn of [0, 0.4, -0.4, 0.8, -0.8, 1.4, -1.4, 2.2, -2.2, 3.1]) {
          const at = { x: x! + r * Math.cos(turn), y: y! + r * Math.sin(turn) }
          const pane = document.querySelector('.vue-flow__pane')!.getBoundingClientRect()
          const inside =
            at.x > pane.left + 50 && at.x < pane.right - 50 && at.y > pane.top + 50 && at.y < pane.bottom - 50
          if (inside && document.elementFromPoint(at.x, at.y)?.matches('.vue-flow__pane')) return at
        }
      return undefined
    },
    [x, y],
  )
  return spot!
}

test('jobs take few actions: worn paint, a stone’s maps, varnish by a map, a film by noise, two tones', async ({
  page,
}) => {
  const count = await countActions(page)
  const bench = await begin(page)
  const field = (input: string, label: string) => bench.property(input).getByLabel(label, { exact: true })
  const goto = (input: string) =>
    bench
      .property(input)
      .getByRole('button', { name: /^Driven by/ })
      .click()
  /** Actions of a job that were done since the last, on a project that has been begun. */
  const job = async () => MODEL + (await count.since())
  /** The topmost sign that lays something on what is there, and what. */
  const layOn = async (what: string) => {
    await page.locator('[data-insert]').last().click()
    await page.getByRole('menuitem', { name: new RegExp(`^${what}`) }).click()
    await expect(page.locator('[data-layer]', { hasText: what }).first()).toBeVisible()
  }
  await count.since()

  // paint over metal, worn by curvature whose radius is driven by an image in mm, looked at alone
  await bench.pickPart('Base')
  await bench.choose(page.getByLabel('Material of Base'), 'Iron')
  await layOn('Paint')
  await layOn('Edge wear')
  await bench.drop(bench.property('radius'), 'grey.png')
  await expect(bench.property('radius')).toContainText('range ▸')
  await goto('radius')
  await enter(field('outlow', 'Out, low'), '1 mm')
  await enter(field('outhigh', 'Out, high'), '4 mm')
  await expect(field('outhigh', 'Out, high')).toHaveValue('4 mm')
  await bench.layer('Paint').click()
  await page.keyboard.press('a')
  await expect(page.getByTestId('shown')).toContainText('layer alone')
  expect(await job()).toBeLessThanOrEqual(18)
  await page.keyboard.press('a')
  await count.since()

  // a stone's maps, tiled and turned in centimetres
  await bench.pickPart('Plate')
  await bench.drop(
    page.getByRole('region', { name: 'Cross-section' }),
    'stone_colour.png',
    'stone_rough.png',
    'stone_height.png',
  )
  await expect(bench.property('base_color')).toContainText('stone_colour ▸')
  await expect(bench.property('specular_roughness')).toContainText('stone_rough ▸')
  await expect(bench.property('geometry_normal')).toContainText('taken as height')
  await goto('base_color')
  await goto('texcoord')
  const placement = page.getByTestId('placement')
  await enter(placement.getByLabel('Tile, along u', { exact: true }), '8 cm')
  await enter(placement.getByLabel('Turn', { exact: true }), '30')
  await expect(placement.getByLabel('Tile, along u', { exact: true })).toHaveValue('8 cm')
  expect(await job()).toBeLessThanOrEqual(12)

  // varnish whose thickness is a map
  await bench.pickPart('Knob')
  await layOn('Clear coat')
  await bench.drop(bench.property('thickness'), 'grey.png')
  await expect(bench.property('thickness')).toContainText('range ▸')
  expect(await job()).toBeLessThanOrEqual(6)

  // a bubble with a film by noise
  await bench.pickPart('Bulb')
  await bench.choose(page.getByLabel('Material of Bulb'), 'Bubble')
  const noise = await add(bench, 'noise3d')
  await wire(bench, noise, 'stock', 'thin_film_thickness')
  await bench.layer('Soap film').click()
  await expect(bench.property('thin_film_thickness')).toContainText('range ▸')
  expect(await job()).toBeLessThanOrEqual(10)

  // two tones by a curve
  await bench.pickPart('Plate')
  await bench.choose(page.getByLabel('Material of Plate'), 'Plastic')
  const spots = await add(bench, 'noise3d')
  const curve = await addOnto(bench, spots, 'curve')
  const mix = await addOnto(bench, curve, 'mix')
  await expect(page.locator(`.wire[data-id$=">${mix}.mix"]`)).toHaveCount(1)
  await enter(field('fg', 'Fg'), '#b03020')
  await enter(field('bg', 'Bg'), '#e8e0d0')
  await wire(bench, mix, 'stock', 'base_color')
  expect(await job()).toBeLessThanOrEqual(18)
})

test('a woven pattern is built from plain nodes, grouped, named and copied to another part, in few actions', async ({
  page,
}) => {
  const count = await countActions(page)
  const bench = await begin(page)
  await bench.pickPart('Base')
  await bench.networkLarge()
  await count.since()
  const uv = await add(bench, 'texcoord')
  const scaled = await addOnto(bench, uv, 'multiply')
  await enter(bench.property('in2').getByRole('textbox').first(), '60')
  const both = await addOnto(bench, scaled, 'separate2')
  const [u, v] = [await addOnto(bench, both, 'sin', 'outx'), await addOnto(bench, both, 'sin', 'outy')]
  const over = await addOnto(bench, u, 'multiply')
  await wire(bench, v, over, 'in2')
  const [warp, weft] = [await addOnto(bench, u, 'absval'), await addOnto(bench, v, 'absval')]
  const weave = await addOnto(bench, over, 'ifgreater')
  await wire(bench, warp, weave, 'in1')
  await wire(bench, weft, weave, 'in2')
  await wire(bench, weave, 'stock', 'base_color')
  await bench.key('Shift+N')
  await bench.networkStill()
  const nodes = [uv, scaled, both, u, v, over, warp, weft, weave]
  await bench.card(uv).click()
  for (const n of nodes.slice(1)) await bench.card(n).click({ modifiers: ['Control'] })
  await bench.key('Shift+G')
  await bench.key('F2')
  await expect(page.getByLabel('Name of the group')).toBeFocused()
  await page.keyboard.type('Weave')
  await page.keyboard.press('Enter')
  const group = (await page.locator('.vue-flow__node.selected').getAttribute('data-id'))!
  await bench.key('o')
  await expect(bench.card(group)).toContainText('Weave')
  await bench.card(group).click({ position: { x: 8, y: 8 } })
  await page.keyboard.press('Control+c')
  await bench.networkLarge()
  await bench.pickPart('Plate')
  await bench.choose(page.getByLabel('Material of Plate'), 'Metal')
  await expect(bench.card(group)).toHaveCount(0)
  await bench.card('stock').click()
  await page.keyboard.press('Control+v')
  await expect(bench.card(group)).toContainText('Weave')
  await bench.networkStill()
  await wire(bench, group, 'stock', 'roughness')
  expect(MODEL + (await count.since())).toBeLessThanOrEqual(110)
})

test('a bubble with a film by noise is made by the keyboard alone', async ({ page }) => {
  const bench = await begin(page)
  /** Goes on by Tab until something has the focus. */
  const tabTo = async (what: Locator, key: 'Tab' | 'Shift+Tab') => {
    await expect(async () => {
      await page.keyboard.press(key)
      expect(await what.evaluate(e => e === document.activeElement)).toBe(true)
    }).toPass({ intervals: [0] })
  }
  const find = async (what: string) => {
    await page.keyboard.press('/')
    await expect(page.getByPlaceholder(/A node, part/)).toBeFocused()
    await bench.takeHit(what)
    await expect(page.getByPlaceholder(/A node, part/)).toBeHidden()
  }
  await find('Knob')
  await expect(bench.part('Knob')).toHaveAttribute('aria-pressed', 'true')
  await tabTo(page.getByLabel('Material of Knob'), 'Tab')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('listbox')).toBeVisible()
  await page.keyboard.type('Bubble')
  await expect(page.locator('[role=option][data-highlighted]')).toContainText('Bubble')
  await page.keyboard.press('Enter')
  await expect(bench.layer('Soap film')).toBeVisible()
  await find('noise3d')
  await expect(bench.card('noise3d')).toHaveClass(/selected/)
  await find('stock')
  const row = bench.property('thin_film_thickness')
  await tabTo(row.getByRole('button', { name: 'Drive Film thickness by a node' }), 'Shift+Tab')
  await page.keyboard.press('Enter')
  const list = row.getByLabel('Node that drives Film thickness')
  await tabTo(list, 'Tab')
  await page.keyboard.type('noise3d')
  await page.keyboard.press('Enter')
  await expect(row).toContainText('range ▸')
})

test('dirt gathers in a corner: found by its word, as wide as is said, brightest where walls meet floors', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await page.goto(BASE)
  await page.getByRole('button', { name: 'from a test piece' }).click()
  await page.getByRole('menuitem', { name: 'Corner of a room' }).click()
  await bench.view().waitFor()
  await bench.refined(1)
  await bench.key('p')
  await bench.pickPart('Floor')
  await expect(bench.card('stock')).toBeVisible()
  await bench.key('/')
  await expect(page.getByPlaceholder(/A node, part/)).toBeFocused()
  await page.keyboard.type('dirt')
  await expect(page.locator('[role=option][data-highlighted]')).toContainText('occlusion')
  await page.keyboard.press('Enter')
  const card = page.locator('.vue-flow__node.selected[data-id*="occlusion"]')
  await expect(card).toBeVisible()
  await bench.networkStill()
  const occlusion = (await card.getAttribute('data-id'))!
  const radius = bench.property('radius').getByRole('textbox').first()
  // one that suits the part stands there from the start
  await expect(radius).toHaveValue(/mm$/)
  await enter(radius, '300 mm')
  await wire(bench, occlusion, 'stock', 'base_color')
  // the open floor has none, and a half of it where the wall begins
  const bright = async (y: number) => Math.max(...(await bench.colourAt(0.5, y, 2)))
  const edge = await floorBegins(bench)
  await expect(async () => {
    const corner = Math.max(await bright(edge - 0.03), await bright(edge - 0.02), await bright(edge - 0.01))
    expect(corner - (await bright(0.75))).toBeGreaterThan(15)
  }).toPass()
})

/** Where the floor begins down the middle of the picture, as a share of its height. */
async function floorBegins(bench: BenchPage): Promise<number> {
  const heights = Array.from({ length: 30 }, (_, i) => 0.3 + i * 0.02)
  const names = await bench.spotsSeen(...heights.map(y => [0.5, y] as const))
  const first = names.findIndex(n => n === 'Floor')
  expect(first).toBeGreaterThan(0)
  return heights[first]!
}
