import type { Page } from '@playwright/test'
import type { ProjectState } from '../../shared/api'
import type { Element } from '../../core/network/document'
import { BASE, withBench } from './browser'
import type { Benchmark } from '../command'

const CARDS = 100

/** A document of a surface and chains of nodes that feed it, `CARDS` in all, on a grid. */
function manyNodes(): Element {
  const input = (name: string, type: string, more: Record<string, string>): Element => ({
    tag: 'input',
    attributes: { name, type, ...more },
    children: [],
  })
  const at = (i: number) => ({ xpos: String(i % 12), ypos: String(Math.floor(i / 12) * 1.1) })
  const chain = Array.from({ length: CARDS - 2 }, (_, i): Element =>
    i % 7 === 0
      ? {
          tag: 'fractal3d',
          attributes: { name: `n${i}`, type: 'float', ...at(i) },
          children: [input('octaves', 'integer', { value: '2' })],
        }
      : {
          tag: ['add', 'multiply', 'smoothstep', 'contrast', 'invert', 'absval'][(i % 7) - 1]!,
          attributes: { name: `n${i}`, type: 'float', ...at(i) },
          children: [input(i % 7 < 3 ? 'in1' : 'in', 'float', { nodename: `n${i - 1}` })],
        },
  )
  return {
    tag: 'materialx',
    attributes: { version: '1.39', colorspace: 'lin_rec709' },
    children: [
      ...chain,
      {
        tag: 'open_pbr_surface',
        attributes: { name: 'stock', type: 'surfaceshader', ...at(CARDS - 2) },
        children: [input('specular_roughness', 'float', { nodename: `n${CARDS - 3}` })],
      },
      {
        tag: 'surfacematerial',
        attributes: { name: 'm', type: 'material', ...at(CARDS - 1) },
        children: [input('surfaceshader', 'surfaceshader', { nodename: 'stock' })],
      },
    ],
  }
}

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
    const list = (await (await fetch(`${BASE}/api/projects`)).json()) as { id: string; name: string }[]
    const { state } = (await (
      await fetch(`${BASE}/api/projects/${list.find(p => p.name === 'Skerry lantern')!.id}`)
    ).json()) as { state: ProjectState }
    const next: ProjectState = { ...state, materials: { ...state.materials, 'Chipped enamel': manyNodes() } }
    const { id } = (await (
      await fetch(`${BASE}/api/projects`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ name: 'A hundred cards', state: next }),
      })
    ).json()) as { id: string }
    try {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
      await page.goto(`${BASE}/bench/${id}`)
      await page.waitForFunction(
        () => Number(document.querySelector('[data-testid=samples]')?.textContent) >= 4,
        null,
        { timeout: 120_000 },
      )
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
      // pan by the empty canvas at its lower edge
      const y = box.y + box.height - 6
      await page.mouse.move(box.x + box.width / 2, y)
      await page.mouse.down()
      await page.evaluate(() => {
        const w = window as unknown as { frames: number }
        w.frames = 0
        const tick = () => {
          w.frames++
          requestAnimationFrame(tick)
        }
        requestAnimationFrame(tick)
      })
      const start = Date.now()
      for (let i = 0; Date.now() - start < 6000; i++) {
        await page.mouse.move(box.x + box.width / 2 + 200 * Math.sin(i / 30), y - 3 + 3 * Math.cos(i / 30))
        await page.waitForTimeout(10)
      }
      const frames =
        ((await page.evaluate(() => (window as unknown as { frames: number }).frames)) / (Date.now() - start)) *
        1000
      await page.mouse.up()
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
        panFramesPerSecond: +frames.toFixed(1),
        passesPerSecond: { cardsLive: +mean(shown).toFixed(3), noCards: +mean(hidden).toFixed(3) },
        costOfCards: +(1 - mean(shown) / mean(hidden)).toFixed(3),
        accept: { panFramesPerSecond: 50, costOfCards: 0.1 },
      }
    } finally {
      await fetch(`${BASE}/api/projects/${id}`, { method: 'DELETE' })
    }
  })
}

export const benchmark: Benchmark = {
  options: '',
  run: () => benchmarkCards(),
}
