import { expect, test } from '@playwright/test'
import { BenchPage } from './bench-page'
import { BASE, serveTests } from './server'

serveTests(test)

test(
  'a file brings its lights; lamps are moved by handles and mirrored at a spot; light passes a dome ' +
    'straight; a turn of frames is asked for',
  async ({ page }) => {
    const bench = new BenchPage(page)
    await page.goto(BASE)
    await bench.drop(page.locator('main'), 'lamps.glb')
    await bench.view().waitFor()
    await bench.refined(1)
    await expect(page.getByText(/3 lights of the file as the rig From the file/)).toBeVisible()
    await expect(page.getByLabel('Light rig', { exact: true })).toHaveText('From the file')

    // the core is dark under glass until lamps shine through it
    await bench.pickPart('Core')
    await bench.choose(page.getByLabel('Material of Core'), 'Stone')
    await bench.pickPart('Dome')
    await bench.choose(page.getByLabel('Material of Dome'), 'Glass')
    await bench.settled(10)
    const dark = await bench.colourAt(0.5, 0.5, 5)
    await page.getByLabel('Shadows pass straight').check()
    await bench.settled(10)
    const lit = await bench.colourAt(0.5, 0.5, 5)
    expect(Math.max(...lit)).toBeGreaterThan(Math.max(...dark) + 8)
    await bench.key('Control+z')
    await expect(page.getByLabel('Shadows pass straight')).not.toBeChecked()

    // a bowl that does not close is told where glass fills it
    await bench.pickPart('Bowl')
    await bench.choose(page.getByLabel('Material of Bowl'), 'Glass')
    await page.getByTestId('checks').click()
    await expect(page.getByRole('dialog', { name: 'Checks' })).toContainText('Bowl is not closed')
    await page.keyboard.press('Escape')

    await bench.key('Shift+L')
    const handle = page.getByTestId('handle-Point')
    const place = async () => {
      const b = (await handle.locator('.mark').boundingBox())!
      return { x: b.x + b.width / 2, y: b.y + b.height / 2 }
    }
    const before = await place()
    await bench.drag(before, { x: before.x - 40, y: before.y + 30 })
    const after = await place()
    expect(Math.hypot(after.x - before.x + 40, after.y - before.y - 30)).toBeLessThan(4)
    await handle.focus()
    for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight')
    expect((await place()).x).toBeGreaterThan(after.x + 10)
    // a ball mirrors what is above at its upper half, what is to the right at its right half
    const view = (await bench.view().boundingBox())!
    const mirrored = async (fx: number, fy: number) => {
      const then = await place()
      await page.getByRole('button', { name: 'Mirror it at a spot' }).click()
      await page.mouse.click(view.x + view.width * fx, view.y + view.height * fy)
      await expect.poll(place).not.toEqual(then)
      return place()
    }
    const above = await mirrored(0.5, 0.46)
    const below = await mirrored(0.5, 0.54)
    const right = await mirrored(0.524, 0.5)
    const left = await mirrored(0.476, 0.5)
    expect(above.y).toBeLessThan(below.y - 100)
    expect(right.x).toBeGreaterThan(left.x + 100)
    await page.getByRole('button', { name: 'Close the light rig' }).click()
    await bench.settled(2)

    // the model turns before lights that stand still
    await page.keyboard.down('Alt')
    await bench.drag(
      { x: view.x + view.width * 0.3, y: view.y + 60 },
      { x: view.x + view.width * 0.3 + 60, y: view.y + 60 },
    )
    await page.keyboard.up('Alt')
    await expect(page.getByTestId('turn')).toContainText(/336/)

    await bench.key('Shift+F')
    const dialog = page.getByTestId('frame-dialog')
    await dialog.getByLabel('Name').fill('Turned')
    await dialog.getByLabel('Frames').fill('3')
    await bench.choose(dialog.getByLabel('Turn'), 'the model before camera and lights')
    await dialog.getByLabel('Time of the last frame').fill('2')
    await dialog.getByRole('button', { name: 'Put into the queue' }).click()
    await expect(dialog).toBeHidden()
    await page.getByRole('link', { name: 'Frames' }).click()
    for (const n of [1, 2, 3]) await page.getByRole('button', { name: `Stop Turned ${n}` }).click()
    for (const n of [1, 2, 3]) await page.getByRole('button', { name: `Take Turned ${n} off the list` }).click()
    await expect(page.getByText('Turned 1')).toBeHidden()
  },
)
