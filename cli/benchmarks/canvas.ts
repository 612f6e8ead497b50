import type { Browser, Page } from '@playwright/test'
import { openBench, withBench } from './browser'
import { withManyCards } from './many-cards'
import { median } from './median'
import { panFrames, perSecond } from './pan-frames'
import type { Benchmark } from '../command'

/** Edits are timed on a network of so many cards, in so many rounds. */
const EDITED = 300
const ROUNDS = 5
/** So many cards are copied. */
const COPIED = 30
/** Shares of the canvas that a box is drawn over until it is about as many. */
const boxes = () =>
  Array.from({ length: 12 }, (_, i) => 0.1 + i * 0.03).flatMap(down =>
    Array.from({ length: 8 }, (_, i) => [0.6 + i * 0.05, down] as const),
  )

/** The bench of a project with its network large, all of it in sight. */
async function openLarge(browser: Browser, id: string): Promise<Page> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await openBench(page, id, 2)
  await page.keyboard.press('n')
  await page.waitForFunction(
    () => document.querySelector('[aria-label=Network]')?.getAttribute('data-still') === 'true',
  )
  await page.waitForTimeout(1500)
  return page
}

/**
 * Milliseconds from a press of a key until what it does stands on the screen: the frame after the one in which the page
 * has so many cards more or less, or cards that have moved.
 */
async function timed(page: Page, press: () => Promise<void>, cards: number | 'moved'): Promise<number> {
  await page.evaluate(wanted => {
    const w = window as unknown as { took: Promise<number> }
    const first = () => document.querySelector<HTMLElement>('.vue-flow__node')!.style.transform
    const was = first()
    const count = () => document.querySelectorAll('.vue-flow__node').length
    const before = count()
    const done = () =>
      wanted === 'moved' ? first() !== was : wanted > before ? count() >= wanted : count() <= wanted
    w.took = new Promise(resolve => {
      const pressed = (e: KeyboardEvent) => {
        if (['Control', 'Shift'].includes(e.key)) return
        removeEventListener('keydown', pressed, true)
        const look = () => {
          if (done()) requestAnimationFrame(() => resolve(performance.now() - e.timeStamp))
          else requestAnimationFrame(look)
        }
        requestAnimationFrame(look)
      }
      addEventListener('keydown', pressed, true)
    })
  }, cards)
  await press()
  return page.evaluate(() => (window as unknown as { took: Promise<number> }).took)
}

/** Times of edits of a large network, ms. */
async function edits(browser: Browser, id: string) {
  const page = await openLarge(browser, id)
  await page.waitForFunction(() => document.querySelectorAll('.vue-flow__node div.picture').length <= 1)
  const count = () => page.locator('.vue-flow__node').count()
  const blur = () => page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
  const key = async (k: string) => {
    await blur()
    await page.keyboard.press(k)
  }
  const took: Record<'add' | 'undo' | 'paste30' | 'tidy', number[]> = { add: [], undo: [], paste30: [], tidy: [] }
  // a box about what is copied
  const network = (await page.getByTestId('network').boundingBox())!
  await page.mouse.click(network.x + 6, network.y + 6)
  let copied = 0
  for (const [across, down] of boxes())
    if (copied !== COPIED) {
      await page.keyboard.down('Shift')
      await page.mouse.move(network.x + 4, network.y + 4)
      await page.mouse.down()
      await page.mouse.move(network.x + network.width * across, network.y + network.height * down, { steps: 6 })
      await page.mouse.up()
      await page.keyboard.up('Shift')
      copied = await page.locator('.vue-flow__node.selected').count()
    }
  await page.keyboard.press('Control+c')
  for (let i = 0; i < ROUNDS; i++) {
    const before = await count()
    took.paste30.push(await timed(page, () => page.keyboard.press('Control+v'), before + 30))
    took.undo.push(await timed(page, () => key('Control+z'), before))
    await key('/')
    await page.getByPlaceholder(/A node, part/).waitFor()
    await page.keyboard.type('contrast')
    await page.waitForTimeout(400)
    took.add.push(await timed(page, () => page.keyboard.press('Enter'), before + 1))
    await key('Control+z')
    await page.waitForTimeout(600)
    took.tidy.push(await timed(page, () => key('Shift+N'), 'moved'))
    await key('Control+z')
    await page.waitForTimeout(800)
  }
  await page.close()
  return { copied, ...Object.fromEntries(Object.entries(took).map(([k, v]) => [k, Math.round(median(v))])) }
}

/** Frames a second while the canvas is panned with every card in sight, and the 95th percentile of a frame, ms. */
async function panning(browser: Browser, id: string) {
  const page = await openLarge(browser, id)
  const cards = await page.locator('.vue-flow__node').count()
  const frames = await panFrames(page, 8)
  await page.close()
  const sorted = [...frames].sort((a, b) => a - b)
  return {
    cards,
    framesPerSecond: perSecond(frames),
    p95: +sorted[Math.floor(sorted.length * 0.95)]!.toFixed(1),
  }
}

/**
 * Seconds until every card of a network that is in sight as a whole has its picture, and the share of the view's rate
 * that is left meanwhile: paths a second then by those once all are made.
 */
async function pictures(browser: Browser, id: string) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await openBench(page, id, 2)
  await page.keyboard.press('n')
  const begun = performance.now()
  const rate = async () => parseFloat((await page.getByTestId('rate').textContent()) ?? '')
  const rates: number[] = []
  const bare = () => page.locator('.vue-flow__node div.picture').count()
  // the material itself has no picture
  for (let left = await bare(); left > 1; left = await bare()) {
    await page.waitForTimeout(500)
    rates.push(await rate())
  }
  const seconds = (performance.now() - begun) / 1000
  // the clear ones, which are made in no hurry then, are a part of the view's usual rate
  await page.waitForTimeout(3000)
  const usual: number[] = []
  for (let i = 0; i < 10; i++) {
    await page.waitForTimeout(1000)
    usual.push(await rate())
  }
  await page.close()
  return { seconds: +seconds.toFixed(1), rateLeft: +(median(rates.slice(2)) / median(usual)).toFixed(2) }
}

/**
 * `benchmark canvas`: edits of a network of 300 cards in Chromium while the render goes on, from the key to the frame
 * that shows it; and frames while networks of 100 and 500 cards are panned with all of them in sight.
 */
export const benchmark: Benchmark = {
  options: '',
  run: () =>
    withBench(async browser => ({
      edits: await withManyCards(EDITED, id => edits(browser, id)),
      pictures: await withManyCards(EDITED, id => pictures(browser, id)),
      panning: [
        await withManyCards(100, id => panning(browser, id)),
        await withManyCards(500, id => panning(browser, id)),
      ],
      accept: {
        add: 150,
        undo: 150,
        paste30: 150,
        tidy: 1000,
        framesPerSecond: [58, 50],
        p95: 25,
        pictures: { seconds: 10, rateLeft: 0.9 },
      },
    })),
}
