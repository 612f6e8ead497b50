import type { Browser, Page } from '@playwright/test'
import { BASE, lanternId, openBench, withBench } from './browser'
import { pageThread } from './page-thread'
import type { Benchmark } from '../command'
import { median } from './median'

/**
 * Moments that the page notes when it finds a list for them: the start of an epoch and its drawings, absolute ms;
 * keys are noted by this benchmark.
 */
interface Noted {
  kind: 'epoch' | 'drawn' | 'key'
  epoch: number
  at: number
  took?: number
}

async function newPage(browser: Browser): Promise<Page> {
  const page = await browser.newPage({ viewport: { width: 1216, height: 787 } })
  await page.addInitScript(() => {
    ;(window as unknown as { wavelumeNotes: Noted[] }).wavelumeNotes = []
  })
  return page
}

/**
 * First drawing of a project, ms: by its address and by a click in the list, in a new profile (cold) and the
 * median of three after that (warm).
 */
async function measureOpenings(browser: Browser, id: string): Promise<Record<string, number>> {
  const firstDrawing = async (page: Page): Promise<number> => {
    for (;;) {
      const at = await page.evaluate(
        () => (window as unknown as { wavelumeNotes: Noted[] }).wavelumeNotes.find(n => n.kind === 'drawn')?.at,
      )
      if (at !== undefined) return at
      await page.waitForTimeout(20)
    }
  }
  const byAddress: number[] = []
  const byClick: number[] = []
  let page = await newPage(browser)
  for (let i = 0; i < 4; i++) {
    const from = Date.now()
    await page.goto(`${BASE}/bench/${id}`)
    byAddress.push((await firstDrawing(page)) - from)
    await page.waitForTimeout(4000)
  }
  await page.close()
  page = await newPage(browser)
  for (let i = 0; i < 4; i++) {
    await page.goto(BASE)
    const card = page.locator(`a[href="/bench/${id}"]`)
    await card.waitFor()
    await page.waitForTimeout(2500)
    const clicked = page.evaluate(
      () =>
        new Promise<number>(r =>
          addEventListener('pointerdown', () => r(performance.timeOrigin + performance.now()), {
            capture: true,
            once: true,
          }),
        ),
    )
    await card.click()
    byClick.push((await firstDrawing(page)) - (await clicked))
    await page.waitForTimeout(4000)
  }
  await page.close()
  return {
    cold: Math.round(byAddress[0]!),
    warm: Math.round(median(byAddress.slice(1))),
    clickCold: Math.round(byClick[0]!),
    clickWarm: Math.round(median(byClick.slice(1))),
  }
}

/**
 * `benchmark preview`: the built application on the demo scene in Chromium, values changed through the slider as a
 * hand would. Latency is from the change to the first drawing of it (160 × 100 or finer, scaled up); updates a
 * second while dragging; the page's frames meanwhile.
 */
async function benchmarkPreview(): Promise<unknown> {
  return withBench(async browser => {
    const lantern = await lanternId()
    const openings = await measureOpenings(browser, lantern)
    const page = await newPage(browser)
    await openBench(page, lantern, 2)
    const noted = () =>
      page.evaluate(() => (window as unknown as { wavelumeNotes: Noted[] }).wavelumeNotes.splice(0))
    await page.getByRole('button', { name: 'Enamel', exact: true }).first().click()
    const size = await page.getByTestId('view').boundingBox()
    const slider = page.locator('[data-input="specular_roughness"] input[type=range]')
    const firstDrawings = (notes: Noted[]) =>
      notes
        .filter(n => n.kind === 'epoch')
        .flatMap(e => {
          const d = notes.find(n => n.kind === 'drawn' && n.epoch === e.epoch)
          return d ? [d.at - e.at] : []
        })
    // single changes, each given time to begin its full passes
    // the pane scrolls to what is focused
    await slider.focus()
    const box = (await slider.boundingBox())!
    await noted()
    const single: number[] = []
    const drawing: number[] = []
    for (let i = 0; i < 24; i++) {
      await page.keyboard.press(i % 2 ? 'ArrowLeft' : 'ArrowRight')
      await page.waitForTimeout(650)
      const notes = await noted()
      single.push(...firstDrawings(notes))
      drawing.push(...notes.flatMap(n => n.took ?? []))
    }
    // a layer switched off and on again, which compiles another network: from the key to the first drawing
    await page.evaluate(() => {
      ;(document.activeElement as HTMLElement).blur()
      addEventListener(
        'keydown',
        () =>
          (window as unknown as { wavelumeNotes: Noted[] }).wavelumeNotes.push({
            kind: 'key',
            epoch: -1,
            at: performance.timeOrigin + performance.now(),
          }),
        { capture: true },
      )
    })
    await noted()
    const topology: number[] = []
    for (let i = 0; i < 16; i++) {
      await page.keyboard.press('h')
      await page.waitForTimeout(900)
      const notes = await noted()
      const key = notes.find(n => n.kind === 'key')!
      const epoch = notes.find(n => n.kind === 'epoch' && n.at >= key.at)
      const drawn = epoch && notes.find(n => n.kind === 'drawn' && n.epoch >= epoch.epoch)
      if (drawn) topology.push(drawn.at - key.at)
    }
    // a drag of six seconds, with as many places a second as a frame of the screen takes from a mouse; none waits
    // for the one before
    await page.mouse.move(box.x + 10, box.y + box.height / 2)
    await page.mouse.down()
    await page.evaluate(() => {
      const w = window as unknown as { frames: number; values: number }
      w.frames = w.values = 0
      addEventListener(
        'input',
        () => {
          w.values++
        },
        true,
      )
      const tick = () => {
        w.frames++
        requestAnimationFrame(tick)
      }
      requestAnimationFrame(tick)
    })
    const start = Date.now()
    const hand = await page.context().newCDPSession(page)
    const moves: Promise<unknown>[] = []
    while (Date.now() - start < 6000) {
      moves.push(
        hand.send('Input.dispatchMouseEvent', {
          type: 'mouseMoved',
          x: box.x + 10 + (box.width - 20) * (0.5 - 0.5 * Math.cos((Date.now() - start) / 800)),
          y: box.y + box.height / 2,
          button: 'left',
          buttons: 1,
        }),
      )
      await new Promise(r => setTimeout(r, 16))
    }
    await Promise.all(moves)
    const seconds = (Date.now() - start) / 1000
    const { frames, values } = await page.evaluate(() => {
      const { frames, values } = window as unknown as { frames: number; values: number }
      return { frames, values }
    })
    await page.mouse.up()
    const notes = await noted()
    // the camera turned, and the picture that refines after it
    const view = (await page.getByTestId('view').boundingBox())!
    const thread = await pageThread(page, async () => {
      await page.mouse.move(view.x + 300, view.y + 100)
      await page.mouse.down()
      for (let i = 0; i < 60; i++) {
        await page.mouse.move(view.x + 300 + i * 3, view.y + 100)
        await page.waitForTimeout(50)
      }
      await page.mouse.up()
      await page.waitForTimeout(4000)
    })
    const dragged = new Set(notes.filter(n => n.kind === 'drawn').map(n => n.epoch)).size
    return {
      view: `${size?.width} × ${size?.height}`,
      openingToPictureMs: openings,
      changeToPictureMs: {
        median: Math.round(median(single)),
        worst: Math.round(Math.max(...single)),
        of: single.length,
      },
      topologyToPictureMs: {
        median: Math.round(median(topology)),
        worst: Math.round(Math.max(...topology)),
        of: topology.length,
      },
      drawingMs: Math.round(median(drawing)),
      updatesPerSecondDragging: +(dragged / seconds).toFixed(1),
      valuesPerSecondDragging: +(values / seconds).toFixed(1),
      valueToPictureDraggingMs: Math.round(median(firstDrawings(notes))),
      framesPerSecondDragging: +(frames / seconds).toFixed(1),
      pageThreadMs: thread,
      accept: {
        pageThreadMost: 4,
        openingWarm: 1500,
        openingCold: 3000,
        median: 50,
        topologyMedian: 120,
        updatesPerSecond: 20,
        framesPerSecond: 50,
      },
    }
  })
}

export const benchmark: Benchmark = {
  options: '',
  run: () => benchmarkPreview(),
}
