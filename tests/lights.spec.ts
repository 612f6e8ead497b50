import { expect, test } from '@playwright/test'
import { BenchPage } from './bench-page'
import { serveTests } from './server'

serveTests(test)

test('lights are dimmed, tinted and seen alone without rendering again; a worker that hangs is replaced', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await bench.open('Skerry lantern')
  await page.getByTestId('edit-lights').click()
  // encoded noise is darker than what it is noise of: the picture is compared with itself once it is quiet, and
  // never with a denoised one
  await bench.key('g')
  await bench.settled(10)
  const brightness = () =>
    page.evaluate(async () => {
      const view = document.querySelector<HTMLCanvasElement>('[data-testid=view] canvas')!
      const bitmap = await createImageBitmap(view)
      const c = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!
      c.drawImage(bitmap, 0, 0)
      // right of the panel of lights
      const { data } = c.getImageData(bitmap.width / 2, 0, bitmap.width / 2, bitmap.height)
      let sum = 0
      for (let i = 0; i < data.length; i += 4) sum += data[i + 1]!
      return sum / (data.length / 4)
    })
  /** Does something to the lights: samples must go on from where they were. */
  const without = async (change: () => Promise<void>) => {
    const before = await bench.epoch()
    await change()
    await bench.stands()
    expect(await bench.epoch()).toBe(before)
  }
  const whole = await brightness()
  await without(() => page.getByRole('button', { name: 'Show Rim alone' }).click())
  await expect.poll(brightness).toBeLessThan(whole * 0.8)
  await expect(page.getByTestId('shown')).toContainText('light alone')
  await without(() => page.getByRole('button', { name: 'Show Rim alone' }).click())
  await expect.poll(async () => Math.abs((await brightness()) / whole - 1)).toBeLessThan(0.015)
  await without(async () => {
    const key = page.getByRole('textbox', { name: 'Level of Key' })
    await key.fill('-4')
    await key.press('Enter')
  })
  await expect.poll(brightness).toBeLessThan(whole * 0.985)
  await without(() => bench.key('Control+z'))
  await expect.poll(async () => Math.abs((await brightness()) / whole - 1)).toBeLessThan(0.015)

  // a worker that hangs is given up after a while, and the picture goes on
  const hung = page.workers().filter(w => w.url().includes('render'))
  expect(hung.length).toBeGreaterThan(0)
  const another = page.waitForEvent('worker', { predicate: w => w.url().includes('render'), timeout: 45_000 })
  void hung[0]!
    .evaluate(() => {
      for (;;);
    })
    .catch(() => undefined)
  await another
  const then = await bench.samples()
  await bench.refined(then + 2)
})

test('a panel is repeated to a group of forty, which is dimmed and seen alone as one; one leaves it again', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await bench.open('Skerry lantern')
  await page.getByTestId('edit-lights').click()
  const panel = page.getByTestId('lights-panel')
  const group = panel.getByTestId('panel-group')
  const type = async (label: string, text: string) => {
    const field = panel.getByLabel(label, { exact: true })
    await field.fill(text)
    await field.press('Enter')
  }
  await panel.getByRole('button', { name: 'Rim', exact: true }).click()
  await type('How many of Rim across', '8')
  await type('How many of Rim down', '5')
  await type('From one Rim to the next', '9 cm')
  await panel.getByRole('button', { name: 'Repeat to 40' }).press('Enter')
  await expect(group).toHaveText(/Rim\s*40/)
  // the group is open, and its first forty rows are there; in the picture only the one in hand has a handle
  await expect(panel.getByRole('textbox', { name: /^Level of Rim/ })).toHaveCount(40)
  await expect(page.locator('[data-testid^="handle-Rim"]')).toHaveCount(1)
  await bench.stands()
  await bench.refined(2)
  // all of a group change alike: the picture is mixed, not rendered
  const before = await bench.epoch()
  await type('Level of the group Rim', '-1')
  await expect(panel.getByRole('textbox', { name: 'Level of Rim 40' })).toHaveValue('-1')
  await group.getByRole('button', { name: 'Show Rim alone' }).click()
  await expect(page.getByTestId('shown')).toContainText('light alone')
  await group.getByRole('button', { name: 'Show Rim alone' }).click()
  await bench.stands()
  expect(await bench.epoch()).toBe(before)
  // one leaves: two layers where there was one
  await panel.getByRole('button', { name: 'Rim 2', exact: true }).click()
  await type('Group of Rim 2', '')
  await expect(group).toHaveText(/Rim\s*39/)
  await expect(panel.getByRole('button', { name: 'Show Rim 2 alone' })).toBeVisible()
  await bench.key('Control+z')
  await expect(group).toHaveText(/Rim\s*40/)
  // the group goes with all of its panels, and comes back
  await panel.getByRole('button', { name: 'Take away', exact: true }).click()
  await expect(group).toHaveCount(0)
  await bench.key('Control+z')
  await expect(group).toHaveText(/Rim\s*40/)
})
