import { readFileSync } from 'node:fs'
import { basename } from 'node:path'
import { decode } from 'fast-png'
import { expect, type Download, type Locator, type Page } from '@playwright/test'
import { BASE, FIXTURES } from './server'

/** The bench as the tests use it: through the pointer and the keyboard, reading only what the page shows. */
export class BenchPage {
  constructor(readonly page: Page) {}

  view = () => this.page.getByTestId('view')
  samples = async () => Number(await this.page.getByTestId('samples').textContent())
  layer = (name: string) => this.page.locator(`button[data-layer][title="${name}"]`)
  part = (name: string) =>
    this.page
      .getByRole('list', { name: 'Parts of the model' })
      .getByRole('button', { name: new RegExp(`^${name}`) })
  property = (input: string) => this.page.locator(`[data-input="${input}"]`)
  card = (name: string) => this.page.locator(`.vue-flow__node[data-id="${name}"]`)

  /** @param drop whether unsaved work that is on offer is dropped, so that the project stands as it was saved */
  async open(project: string, drop = true): Promise<void> {
    await this.page.goto(BASE)
    await this.page
      .getByRole('link', { name: new RegExp(project) })
      .first()
      .click()
    await this.view().waitFor()
    await this.refined(1)
    const offer = this.page.getByRole('button', { name: 'Drop it' })
    while (drop && (await offer.isVisible())) await offer.click()
  }
  /** Opens a project with its network and stops its picture: for walks that look at everything but the picture. */
  async openStill(project: string): Promise<void> {
    await this.open(project)
    await this.key('p')
    await expect(this.page.locator('.vue-flow__node').first()).toBeVisible()
  }
  /** Waits for full passes. */
  async refined(passes: number): Promise<void> {
    await expect.poll(this.samples, { timeout: 90_000, intervals: [100] }).toBeGreaterThanOrEqual(passes)
  }
  /** Waits until the picture of the last change stands, and has full passes. */
  async settled(passes = 1): Promise<void> {
    await this.stands()
    await this.refined(passes)
  }
  /** Waits until no change is on its way to the picture. */
  async stands(): Promise<void> {
    await expect(this.view()).toHaveAttribute('data-busy', 'false')
    await expect(this.view().locator('canvas').first()).toHaveAttribute('data-stands', 'yes')
    await expect(this.view()).toHaveAttribute('data-busy', 'false')
  }
  /** Number of times that the picture has begun anew. */
  epoch = async () => Number(await this.view().locator('canvas').first().getAttribute('data-epoch'))
  /** Parts under spots of the page, as the pointer is told; empty where there is none. */
  async seenAt(spots: readonly { x: number; y: number }[]): Promise<string[]> {
    const parts: string[] = []
    for (const { x, y } of spots) {
      await this.page.mouse.move(x, y)
      const tag = this.page.getByTestId('probe')
      parts.push((await tag.isVisible()) ? (await tag.textContent())! : '')
    }
    return parts
  }
  /** Names of the parts at places of the picture, as shares of its size; empty where there is none. */
  async spotsSeen(...places: (readonly [number, number])[]): Promise<string[]> {
    const box = (await this.view().boundingBox())!
    const at = places.map(([x, y]) => ({ x: box.x + box.width * x, y: box.y + box.height * y }))
    return (await this.seenAt(at)).map(text => text.split(/[ ·:]/)[0]!)
  }
  /** Picks the raw stock, the lowest layer of the cross-section. */
  async pickStock(): Promise<void> {
    await this.page.locator('button[data-layer]').last().click()
    await expect(this.page.getByRole('group', { name: 'Shape' })).toBeVisible()
  }
  /** Parts under a grid of spots of the picture. */
  async seen(): Promise<string[]> {
    const box = (await this.view().boundingBox())!
    const spots = Array.from({ length: 35 }, (_, i) => ({
      x: box.x + (box.width * (1 + (i % 7))) / 8,
      y: box.y + (box.height * (1 + Math.floor(i / 7))) / 6,
    }))
    return this.seenAt(spots)
  }
  /** Makes the network large, or gives its pane back, and waits until its canvas stands still. */
  async networkLarge(): Promise<void> {
    await this.key('n')
    await this.networkStill()
  }
  async networkStill(): Promise<void> {
    await expect(this.page.getByRole('region', { name: 'Network' })).toHaveAttribute('data-still', 'true')
  }
  async pickPart(name: string): Promise<void> {
    await this.part(name).click()
    await expect(this.part(name)).toHaveAttribute('aria-pressed', 'true')
  }
  /** Leaves fields, so that single keys act. */
  async focusBench(): Promise<void> {
    await this.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
  }
  async key(k: string): Promise<void> {
    await this.focusBench()
    await this.page.keyboard.press(k)
  }

  /** Mean colour 0..255 of a square of the view's picture. */
  async colourAt(fx: number, fy: number, radius = 6): Promise<number[]> {
    const box = (await this.view().boundingBox())!
    const clip = {
      x: box.x + box.width * fx - radius,
      y: box.y + box.height * fy - radius,
      width: radius * 2,
      height: radius * 2,
    }
    const { width, height, data, channels } = decode(await this.page.screenshot({ clip }))
    const sum = [0, 0, 0]
    for (let i = 0; i < width * height; i++) for (let k = 0; k < 3; k++) sum[k]! += data[i * channels + k]!
    return sum.map(x => x / (width * height))
  }
  /** Chooses from a list that a button opens. */
  async choose(list: Locator, name: string | RegExp): Promise<void> {
    await list.click()
    await this.page.getByRole('option', { name, exact: true }).first().click()
    await expect(this.page.getByRole('listbox')).toHaveCount(0)
  }
  /** Types into find-or-add, which is open, and takes the hit that is marked then. */
  async takeHit(what: string): Promise<void> {
    await this.page.keyboard.type(what)
    await expect(this.page.locator('[role=option][data-highlighted]')).toContainText(what)
    await this.page.keyboard.press('Enter')
  }
  /** Drops a file onto an element. */
  async drop(target: Locator, ...files: string[]): Promise<void> {
    const content = files.map(f => ({
      name: basename(f),
      base64: readFileSync(f.includes('/') ? f : `${FIXTURES}/${f}`).toString('base64'),
    }))
    const transfer = await this.page.evaluateHandle(list => {
      const t = new DataTransfer()
      for (const f of list) t.items.add(new File([Uint8Array.from(atob(f.base64), c => c.charCodeAt(0))], f.name))
      return t
    }, content)
    await target.dispatchEvent('dragover', { dataTransfer: transfer })
    await target.dispatchEvent('drop', { dataTransfer: transfer })
  }
  async drag(from: { x: number; y: number }, to: { x: number; y: number }, steps = 8): Promise<void> {
    await this.page.mouse.move(from.x, from.y)
    await this.page.mouse.down()
    await this.page.mouse.move(to.x, to.y, { steps })
    await this.page.mouse.up()
  }
  async download(item: RegExp): Promise<Download> {
    await this.page.getByRole('button', { name: 'Export' }).click()
    const [d] = await Promise.all([
      this.page.waitForEvent('download'),
      this.page.getByRole('menuitem', { name: item }).click(),
    ])
    return d
  }
}

/** Largest difference of two colours' components. */
export const apart = (a: number[], b: number[]): number => Math.max(...a.map((x, k) => Math.abs(x - b[k]!)))
