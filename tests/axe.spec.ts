import { AxeBuilder } from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { BenchPage } from './bench-page'
import { BASE, serveTests } from './server'

serveTests(test)

/** What the automated check finds in a piece of the page. */
async function violations(page: Page, piece: string, rules: string[]): Promise<string[]> {
  const axe = new AxeBuilder({ page }).include(piece)
  const found = await (rules.length > 0 ? axe.withRules(rules) : axe).analyze()
  return found.violations.map(v => `${v.id}: ${v.nodes.map(n => n.target.join(' ')).join(', ')}`)
}
const dress = (page: Page, theme: string | null) =>
  page.evaluate(t => {
    const root = document.documentElement
    const was = root.dataset.theme ?? null
    if (t !== null) root.dataset.theme = t
    return was
  }, theme)
/** Checks a piece of the page: all of it as it is, its colours in the other themes too. */
async function clean(page: Page, what: string, piece = 'body'): Promise<void> {
  expect(await violations(page, piece, []), what).toEqual([])
  const was = await dress(page, null)
  for (const theme of ['neutral', 'dim', 'light'].filter(t => t !== was)) {
    await dress(page, theme)
    expect(await violations(page, piece, ['color-contrast']), `${what} in the theme ${theme}`).toEqual([])
  }
  await dress(page, was)
}

test('an automated check for accessibility finds nothing in the views, in any theme', async ({ page }) => {
  await page.goto(BASE)
  await expect(page.getByRole('link', { name: /Skerry lantern/ }).first()).toBeVisible()
  await clean(page, 'projects')
  await page.goto(`${BASE}/frames`)
  await expect(page.getByRole('heading', { name: 'Frames' })).toBeVisible()
  await clean(page, 'frames')
  await page.goto(`${BASE}/library`)
  await expect(page.getByRole('region', { name: /Gold/ })).toBeVisible()
  await expect(page.getByRole('region', { name: /Gold/ }).locator('.chart svg')).toHaveCount(2)
  await clean(page, 'library')
})

test('an automated check for accessibility finds nothing on the bench, in any theme', async ({ page }) => {
  const bench = new BenchPage(page)
  await bench.open('Skerry lantern')
  await expect(page.locator('.vue-flow__node').first()).toBeVisible()
  // the check and the render would wait for each other
  await bench.refined(2)
  await bench.key('p')
  await clean(page, 'bench')
  for (const theme of ['dim', 'light', 'neutral']) {
    await bench.key('Shift+T')
    await expect(page.locator('html')).toHaveAttribute('data-theme', theme)
  }
  for (const [key, panel] of [
    ['Shift+C', 'curves-panel'],
    ['Shift+L', 'lights-panel'],
    ['Shift+J', 'lens-panel'],
  ] as const) {
    await bench.key(key)
    await expect(page.getByTestId(panel)).toBeVisible()
    if (panel === 'lights-panel') await page.getByRole('button', { name: 'Key', exact: true }).click()
    if (panel === 'curves-panel') {
      await expect(page.getByTestId(panel).locator('svg').first()).toBeVisible()
      await expect(page.getByTestId(panel)).not.toContainText('computing')
    }
    await clean(page, panel, `[data-testid=${panel}]`)
    await bench.key(key)
  }
  await bench.key('?')
  await expect(page.getByRole('dialog')).toBeVisible()
  await clean(page, 'keys', '[role=dialog]')
  await page.keyboard.press('Escape')
  await bench.key('Shift+F')
  await page.getByTestId('frame-dialog').getByLabel('Frames').fill('3')
  await clean(page, 'asking for frames', '[role=dialog]')
  await page.keyboard.press('Escape')
  await page.getByTestId('save-state').click()
  await expect(page.getByRole('dialog', { name: 'Versions' }).getByText('v1')).toBeVisible()
  await clean(page, 'versions', '[role=dialog]')
  await page.getByTestId('checks').click()
  await expect(page.getByRole('dialog', { name: 'Checks' })).toBeVisible()
  await clean(page, 'checks', '[role=dialog]')
})
