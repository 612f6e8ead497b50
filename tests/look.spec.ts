import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { apart, BenchPage } from './bench-page'
import { FIXTURES, serveTests } from './server'

serveTests(test)

test(
  'a region is rendered alone; white is picked and set; an own rig with an environment picture is kept ' +
    'and carried as a file',
  async ({ page }) => {
    const bench = new BenchPage(page)
    await bench.open('Skerry lantern')
    await bench.refined(3)
    const box = (await bench.view().boundingBox())!
    const at = (fx: number, fy: number) => ({ x: box.x + box.width * fx, y: box.y + box.height * fy })

    await bench.key('r')
    await expect(page.getByText('Draw the region to render').first()).toBeVisible()
    await bench.drag(at(0.3, 0.6), at(0.5, 0.9))
    await expect(page.getByTestId('region')).toBeVisible()
    await expect(page.getByTestId('shown')).toContainText('region')
    await bench.settled(6)
    const rest = { x: box.x + box.width * 0.7, y: box.y + box.height * 0.55, width: 60, height: 60 }
    const outside = await page.screenshot({ clip: rest })
    await bench.settled(24)
    expect(outside.equals(await page.screenshot({ clip: rest }))).toBe(true)
    await bench.key('k')
    await expect(page.getByText('A region is rendered: press R').first()).toBeVisible()
    await bench.key('r')
    await expect(page.getByTestId('region')).toHaveCount(0)
    await bench.settled(2)

    // the stage is grey: after picking it, the grey has no hue; the picture itself is not touched
    await bench.key('Shift+W')
    await page.mouse.click(at(0.12, 0.9).x, at(0.12, 0.9).y)
    await expect(page.getByTestId('white')).toContainText('picked')
    const stage = await bench.colourAt(0.12, 0.9, 16)
    expect(Math.max(...stage) - Math.min(...stage)).toBeLessThan(4)
    await page.getByTestId('white').focus()
    for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowDown')
    await expect(page.getByTestId('white')).toContainText(/\d+ K/)
    await expect
      .poll(async () => {
        const c = await bench.colourAt(0.12, 0.9, 16)
        return Math.abs(c[2]! - c[0]!)
      })
      .toBeGreaterThan(5)
    await page.keyboard.press('Delete')
    await expect(page.getByTestId('white')).toContainText('D65')

    // lights: dimmed by two stops, then an environment picture of our own rig, which is saved as a file and read
    // again
    const lit = await bench.colourAt(0.57, 0.82, 10)
    await bench.key('Shift+L')
    const panel = page.getByTestId('lights-panel')
    await panel.getByRole('button', { name: 'Keep as own rig' }).click()
    await expect(panel).toContainText('own')
    await panel.getByLabel('Name of the rig').fill('Quay at noon')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('combobox', { name: 'Light rig' })).toHaveText('Quay at noon')
    await panel.getByLabel('Dim', { exact: true }).fill('-2')
    await page.keyboard.press('Enter')
    await bench.settled(2)
    await expect.poll(async () => (await bench.colourAt(0.57, 0.82, 10))[1]!).toBeLessThan(lit[1]! * 0.8)
    await panel.getByLabel('Dim', { exact: true }).fill('0')
    await page.keyboard.press('Enter')
    await bench.settled(2)
    const plain = await bench.colourAt(0.8, 0.1, 10)
    await page.getByTestId('environment-picture').setInputFiles(`${FIXTURES}/check.png`)
    await expect(panel).toContainText('check.png')
    await bench.settled(2)
    await expect.poll(async () => apart(await bench.colourAt(0.8, 0.1, 10), plain)).toBeGreaterThan(20)
    await panel.getByLabel('Rotation of the environment', { exact: true }).fill('90')
    await page.keyboard.press('Enter')
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      panel.getByRole('button', { name: 'Save as file' }).click(),
    ])
    const file = await download.path()
    const rig = JSON.parse(readFileSync(file, 'utf8')) as {
      name: string
      environment: { turn: number; file: string }
    }
    expect(rig).toMatchObject({ name: 'Quay at noon', environment: { turn: 90, file: 'check.png' } })
    await panel.getByRole('button', { name: 'Take away' }).click()
    await expect(page.getByRole('combobox', { name: 'Light rig' })).toHaveText('Three panels')
    await page.getByTestId('rig-file').setInputFiles(file)
    await expect(page.getByRole('combobox', { name: 'Light rig' })).toHaveText('Quay at noon')
    await page.getByTestId('rig-file').setInputFiles(`${FIXTURES}/broken.mtlx`)
    await expect(page.getByText('broken.mtlx was not read').first()).toBeVisible()
  },
)

test(
  'a published value has its own setting on another part that wears the material; materials are dragged ' +
    'onto parts',
  async ({ page }) => {
    const bench = new BenchPage(page)
    await bench.open('Skerry lantern')
    await bench.pickPart('Stage')
    const grey = await bench.colourAt(0.12, 0.9, 12)

    // the ring's yellow onto the stage, dragged from one row to the other
    await bench.part('Ring').dragTo(bench.part('Stage'))
    await expect(page.getByText('Stage wears Signal yellow').first()).toBeVisible()
    await bench.settled(2)
    await expect.poll(async () => apart(await bench.colourAt(0.12, 0.9, 12), grey)).toBeGreaterThan(25)

    await bench.property('base_color').hover()
    await page.getByRole('button', { name: 'Publish Colour' }).click()
    const own = page.locator('[data-own="stock#base_color"]')
    await expect(own).toBeVisible()
    await own.locator('input[type=color]').fill('#1020c0')
    await bench.settled(2)
    await expect
      .poll(async () => {
        const c = await bench.colourAt(0.12, 0.9, 12)
        return c[2]! - c[1]!
      })
      .toBeGreaterThan(20)
    // the ring keeps the material's own colour
    await bench.pickPart('Ring')
    await expect(own.getByRole('button', { name: /^Take back/ })).toBeDisabled()
    await bench.pickPart('Stage')
    await own.getByRole('button', { name: /^Take back/ }).click()
    await bench.settled(2)
    await expect
      .poll(async () => {
        const c = await bench.colourAt(0.12, 0.9, 12)
        return c[2]! - c[1]!
      })
      .toBeLessThan(0)

    // and from a row into the picture
    await bench.part('Housing').dragTo(bench.view(), { targetPosition: { x: 90, y: 440 } })
    await expect(page.getByText('Stage wears Chipped enamel').first()).toBeVisible()
  },
)
