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
