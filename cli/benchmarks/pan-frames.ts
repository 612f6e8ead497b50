import type { Page } from '@playwright/test'

/** How long the canvas is moved, ms. */
const TIME = 6000

/**
 * Moves the network's canvas to and fro by its empty lower edge.
 * @param edge how far from its lower edge it is held, pixels
 * @returns how long each frame of the page took meanwhile, ms
 */
export async function panFrames(page: Page, edge: number): Promise<number[]> {
  const box = (await page.getByTestId('network').boundingBox())!
  const { x, y } = { x: box.x + box.width / 2, y: box.y + box.height - edge }
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.evaluate(() => {
    const w = window as unknown as { frames: number[] }
    w.frames = []
    let last = performance.now()
    const tick = (now: number) => {
      w.frames.push(now - last)
      last = now
      requestAnimationFrame(tick)
    }
    requestAnimationFrame(tick)
  })
  const start = Date.now()
  for (let i = 0; Date.now() - start < TIME; i++) {
    await page.mouse.move(x + 200 * Math.sin(i / 30), y - 3 + 3 * Math.cos(i / 30))
    await page.waitForTimeout(10)
  }
  const frames = await page.evaluate(() => (window as unknown as { frames: number[] }).frames.slice(1))
  await page.mouse.up()
  return frames
}

/** Frames a second of some frames, ms each. */
export const perSecond = (frames: readonly number[]): number =>
  +((frames.length / frames.reduce((a, b) => a + b, 0)) * 1000).toFixed(1)
