import type { Page } from '@playwright/test'
import { openBench, withBench } from './browser'
import { withManyCards } from './many-cards'
import { panFrames, perSecond } from './pan-frames'
import type { Benchmark } from '../command'

const CARDS = 100

/** Passes of the whole picture in some seconds. */
async function passesIn(page: Page, seconds: number): Promise<number> {
  const samples = async () => Number(await page.getByTestId('samples').textContent())
  const from = await samples()
  const start = Date.now()
  await page.waitForTimeout(seconds * 1000)
  return (((await samples()) - from) / (Date.now() - start)) * 1000
}

/**
 * `benchmark cards`: a network of a hundred cards on the demo lantern in Chromium. Frames a second while it is
 * panned and the render goes on; and what keeping all cards' pictures current costs the view: passes a second with
 * every card in sight, against the same with none in sight.
 */
async function benchmarkCards(): Promise<unknown> {
  return withBench(async browser => {
    return withManyCards(CARDS, async id => {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
      await openBench(page, id, 4)
      const network = page.getByTestId('network')
      const box = (await network.boundingBox())!
      const zoom = async (by: number) => {
        for (let i = 0; i < 8; i++) {
          await page.mouse.wheel(0, by)
          await page.waitForTimeout(40)
        }
      }
      await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
      await zoom(220)
      const cards = await page.locator('.vue-flow__node').count()
      const y = box.y + box.height - 6
      const frames = await panFrames(page, 6)
      const shown: number[] = []
      const hidden: number[] = []
      // every card in sight and due: each change of the camera asks for all pictures again
      const turn = async () => {
        await page
          .getByTestId('view')
          .focus()
          .catch(() => undefined)
        const v = (await page.getByTestId('view').boundingBox())!
        await page.mouse.move(v.x + 300, v.y + 60)
        await page.mouse.down()
        await page.mouse.move(v.x + 306, v.y + 60, { steps: 2 })
        await page.mouse.up()
        await page.waitForTimeout(1500)
      }
      for (let i = 0; i < 3; i++) {
        await turn()
        shown.push(await passesIn(page, 12))
        await page.mouse.move(box.x + box.width / 2, y)
        await page.mouse.down()
        await page.mouse.move(box.x + box.width / 2, y - 2000, { steps: 6 })
        await page.mouse.up()
        await turn()
        hidden.push(await passesIn(page, 12))
        await page.mouse.move(box.x + box.width / 2, y - 20)
        await page.mouse.down()
        await page.mouse.move(box.x + box.width / 2, y - 20 + 2000, { steps: 6 })
        await page.mouse.up()
      }
      const mean = (v: number[]) => v.reduce((a, b) => a + b, 0) / v.length
      return {
        cards,
        panFramesPerSecond: perSecond(frames),
        passesPerSecond: { cardsLive: +mean(shown).toFixed(3), noCards: +mean(hidden).toFixed(3) },
        costOfCards: +(1 - mean(shown) / mean(hidden)).toFixed(3),
        accept: { panFramesPerSecond: 50, costOfCards: 0.1 },
      }
    })
  })
}

export const benchmark: Benchmark = {
  options: '',
  run: () => benchmarkCards(),
}
