import { AxeBuilder } from '@axe-core/playwright'
import { expect, test, type Locator } from '@playwright/test'
import { BenchPage } from './bench-page'
import { serveTests } from './server'

serveTests(test)

test('menus, dialogs and lists by keyboard alone: focus goes in and comes back, arrows move, Esc closes', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await bench.openStill('Skerry lantern')
  const press = (key: string) => page.keyboard.press(key)
  const clean = async (of: string) => {
    // arrows scroll a list of choices: its items have the focus, not what scrolls
    const off = of === '[role=listbox]' ? ['scrollable-region-focusable'] : []
    const { violations } = await new AxeBuilder({ page }).include(of).disableRules(off).analyze()
    expect(violations.map(v => `${of}: ${v.id}: ${v.nodes.map(n => n.target.join(' ')).join(', ')}`)).toEqual([])
  }

  /** Waits until an item has the focus. @returns its text */
  const focused = async (item: 'menuitem' | 'option', other = '') => {
    const at = () =>
      page.evaluate(role => {
        const e = document.activeElement
        return e?.getAttribute('role') === role ? e.textContent!.trim() : ''
      }, item)
    await expect.poll(async () => ![other, ''].includes(await at())).toBe(true)
    return at()
  }
  /** Opens what a button opens, moves in it by an arrow, and leaves it by Esc: the button has the focus again. */
  const walk = async (button: Locator, item: 'menuitem' | 'option') => {
    await button.focus()
    await press('Enter')
    const items = page.getByRole(item)
    const first = await focused(item)
    await press('ArrowDown')
    await focused(item, first)
    await clean(item === 'menuitem' ? '[role=menu]' : '[role=listbox]')
    await press('Escape')
    await expect(items).toHaveCount(0)
    await expect(button).toBeFocused()
  }
  await walk(page.getByRole('button', { name: 'Export' }), 'menuitem')
  await walk(page.locator('[data-insert]').first(), 'menuitem')
  await walk(page.getByLabel('Material of Housing'), 'option')
  await walk(page.getByLabel('Light rig', { exact: true }), 'option')
  await walk(page.getByLabel('Matter'), 'option')

  /** The same of a dialog: what is in it takes the focus. */
  const dialog = async (button: Locator, name: string) => {
    await button.focus()
    await press('Enter')
    const shown = page.getByRole('dialog', { name })
    await expect(shown).toBeVisible()
    await expect.poll(() => shown.evaluate(e => e.contains(document.activeElement))).toBe(true)
    await press('Tab')
    await expect.poll(() => shown.evaluate(e => e.contains(document.activeElement))).toBe(true)
    await clean('[role=dialog]')
    await press('Escape')
    await expect(shown).toBeHidden()
    await expect(button).toBeFocused()
  }
  await dialog(page.getByTestId('save-state'), 'Versions')

  // a choice made by keys counts
  await page.getByLabel('Light rig', { exact: true }).focus()
  await press('Enter')
  const was = await focused('option')
  await press('ArrowDown')
  await focused('option', was)
  await press('Enter')
  await expect(page.getByLabel('Light rig', { exact: true })).not.toHaveText('Three panels')

  // the keys' list, and the frame's dialog beside the picture, which can be turned meanwhile
  await bench.key('?')
  const keys = page.getByRole('dialog', { name: 'Keys' })
  await expect(keys).toBeVisible()
  await clean('[role=dialog]')
  await press('Escape')
  await expect(keys).toBeHidden()
  await page.getByRole('button', { name: 'Export' }).focus()
  await press('Enter')
  const top = await focused('menuitem')
  await press('End')
  await focused('menuitem', top)
  await press('Enter')
  const frame = page.getByTestId('frame-dialog')
  await expect(frame.getByLabel('Name')).toBeFocused()
  await clean('[role=dialog]')
  const epoch = await bench.epoch()
  const box = (await bench.view().boundingBox())!
  await bench.drag(
    { x: box.x + box.width / 2, y: box.y + box.height / 2 },
    { x: box.x + box.width / 2 + 60, y: box.y + box.height / 2 },
  )
  await expect.poll(bench.epoch).toBeGreaterThan(epoch)
  await expect(frame).toBeVisible()
  await frame.getByLabel('Name').focus()
  await press('Escape')
  await expect(frame).toBeHidden()
})
