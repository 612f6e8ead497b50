import { readdirSync, readFileSync } from 'node:fs'
import { lanternId, openBench, withBench } from './browser'
import type { Benchmark } from '../command'

/**
 * Resident memory of every Chromium process below this one, MB (proportional set size, so that shared pages count
 * once).
 */
function chromiumMegabytes(): number {
  let kilobytes = 0
  for (const pid of readdirSync('/proc').filter(n => /^\d+$/.test(n))) {
    try {
      if (!/chrom/.test(readFileSync(`/proc/${pid}/comm`, 'utf8'))) continue
      kilobytes += Number(/^Pss:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8'))?.[1] ?? 0)
    } catch {
      continue
    } // it ended meanwhile
  }
  return kilobytes / 1024
}

/**
 * `benchmark memory`: scripted edits of the demo lantern for some minutes: values dragged, layers inserted and
 * deleted, nodes added and wired, undo, proofs, taps, lights. The memory of the page's heap and of all of
 * Chromium's processes after a collection, at a fifth of the time (warm) and at its end.
 */
async function benchmarkMemory(minutes: number): Promise<unknown> {
  return withBench(async browser => {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    const devtools = await page.context().newCDPSession(page)
    await openBench(page, await lanternId(), 2)
    await devtools.send('Performance.enable')
    const measure = async () => {
      for (let i = 0; i < 3; i++) {
        await devtools.send('HeapProfiler.collectGarbage')
        await page.waitForTimeout(500)
      }
      const { metrics } = await devtools.send('Performance.getMetrics')
      const of = (name: string) => metrics.find(m => m.name === name)?.value ?? 0
      return {
        heapMegabytes: +(of('JSHeapUsedSize') / 2 ** 20).toFixed(1),
        nodes: of('Nodes'),
        allMegabytes: +chromiumMegabytes().toFixed(0),
      }
    }
    const blur = () => page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
    const key = async (k: string) => {
      await blur()
      await page.keyboard.press(k)
    }
    const start = Date.now()
    const end = start + minutes * 60_000
    let warm: Awaited<ReturnType<typeof measure>> | undefined
    let rounds = 0
    const curve: number[] = []
    while (Date.now() < end) {
      await page.getByRole('button', { name: 'Enamel', exact: true }).first().click()
      const slider = (await page.locator('[data-input="specular_roughness"] input[type=range]').boundingBox())!
      await page.mouse.move(slider.x + 10, slider.y + 10)
      await page.mouse.down()
      for (let i = 0; i < 40; i++) {
        await page.mouse.move(slider.x + 10 + (slider.width - 20) * (0.5 - 0.5 * Math.cos(i / 5)), slider.y + 10)
        await page.waitForTimeout(25)
      }
      await page.mouse.up()
      await key('d')
      await page.waitForTimeout(500)
      await key('h')
      await page.waitForTimeout(300)
      await key('/')
      await page.keyboard.type('noise3d')
      await page.locator('.palette [role=option]').first().click()
      await key('e')
      await page.waitForTimeout(700)
      await key('e')
      await key('l')
      await page.waitForTimeout(900)
      if (rounds % 8 === 0) {
        await key('k')
        await page.waitForTimeout(1500)
      }
      for (let i = 0; i < 7; i++) {
        await key('Control+z')
        await page.waitForTimeout(60)
      }
      rounds++
      if (!warm && Date.now() - start > minutes * 12_000) warm = await measure()
      if (rounds % 10 === 0) curve.push(Math.round(chromiumMegabytes()))
    }
    const last = await measure()
    return {
      minutes,
      rounds,
      warm,
      last,
      allMegabytesOverTime: curve,
      growth: {
        heap: +(last.heapMegabytes / warm!.heapMegabytes - 1).toFixed(3),
        all: +(last.allMegabytes / warm!.allMegabytes - 1).toFixed(3),
      },
      accept: { growth: 0.1 },
    }
  })
}

export const benchmark: Benchmark = {
  options: '[--minutes N]',
  run: o => benchmarkMemory(o.number('minutes', 15, 1, 600)),
}
