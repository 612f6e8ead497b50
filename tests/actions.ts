import type { Page } from '@playwright/test'

/**
 * Counts what a hand does, from the browser's own events: a click or a drag by its press, a key or chord, a value that
 * is typed by the key that enters it, a drop of any number of files.
 */
export async function countActions(page: Page): Promise<{ since: () => Promise<number> }> {
  await page.addInitScript(() => {
    const counted = window as unknown as { actions: number }
    counted.actions = 0
    const one = () => void counted.actions++
    addEventListener('pointerdown', one, true)
    addEventListener('drop', one, true)
    addEventListener(
      'keydown',
      e => {
        const typing = (e.target as HTMLElement).matches('input:not([type=range], [type=checkbox]), textarea')
        const letter = e.key.length === 1 && !e.ctrlKey && !e.metaKey
        if (!['Shift', 'Control', 'Alt', 'Meta'].includes(e.key) && !(typing && letter)) one()
      },
      true,
    )
  })
  let before = 0
  return {
    /** Actions since this was asked last. */
    since: async () => {
      const now = await page.evaluate(() => (window as unknown as { actions: number }).actions)
      const n = now - before
      before = now
      return n
    },
  }
}
