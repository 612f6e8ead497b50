import { expect, test, type Page } from '@playwright/test'
import { BenchPage } from './bench-page'
import { BASE, serveTests } from './server'

const server = serveTests(test)

/** A copy of the lantern under a name of its own. @returns its id */
async function copyOfLantern(page: Page, name: string): Promise<string> {
  const list = (await (await page.request.get(`${BASE}/api/projects`)).json()) as { id: string; name: string }[]
  const lantern = list.find(p => p.name === 'Skerry lantern')!
  const { state } = (await (await page.request.get(`${BASE}/api/projects/${lantern.id}?version=1`)).json()) as {
    state: object
  }
  const made = await page.request.post(`${BASE}/api/projects`, { data: { name, state } })
  return ((await made.json()) as { id: string }).id
}
/** Opens a project with what is on offer, and stops its picture, which nobody looks at here. */
async function open(bench: BenchPage, project: string): Promise<void> {
  await bench.open(project, false)
  await bench.key('p')
}
/** The roughness of the enamel, typed and entered. */
async function rough(bench: BenchPage, value: string): Promise<void> {
  await bench.layer('Enamel').click()
  const field = bench.property('specular_roughness').getByLabel('Roughness', { exact: true })
  await field.fill(value)
  await bench.page.keyboard.press('Enter')
}
const roughness = (bench: BenchPage) =>
  bench.property('specular_roughness').getByLabel('Roughness', { exact: true })
const versions = async (page: Page, id: string) =>
  (await (await page.request.get(`${BASE}/api/projects/${id}/versions`)).json()) as {
    number: number
    aside: boolean
  }[]

/** What the browser keeps of drafts, as text. */
const inBrowser = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<string>((resolve, reject) => {
        const opening = indexedDB.open('wavelume-drafts')
        opening.onerror = () => reject(opening.error)
        opening.onsuccess = () => {
          const all = opening.result.transaction('drafts').objectStore('drafts').getAll()
          all.onerror = () => reject(all.error)
          all.onsuccess = () => {
            opening.result.close()
            resolve(JSON.stringify(all.result))
          }
        }
      }),
  )

test('unsaved work is kept while it goes on, and in the browser when the server is gone', async ({
  page,
  context,
}) => {
  const id = await copyOfLantern(page, 'Drafted lantern')
  const bench = new BenchPage(page)
  await open(bench, 'Drafted lantern')
  await bench.layer('Enamel').click()
  let kept = 0
  page.on('response', r => {
    if (r.url().includes('/drafts/') && r.request().method() === 'PUT' && r.ok()) kept++
  })
  // no rest between the edits: a draft that waits for one would never be kept
  await roughness(bench).focus()
  await expect(async () => {
    await page.keyboard.press('ArrowUp')
    expect(kept).toBeGreaterThanOrEqual(2)
  }).toPass({ intervals: [150], timeout: 60_000 })

  await server.kill()
  await rough(bench, '0.66')
  await expect(page.getByText('could not be kept on the server')).toBeVisible()
  // that may have been said of the edit before
  await expect.poll(() => inBrowser(page)).toContain('0.66')
  await page.close()
  await server.start()
  const again = new BenchPage(await context.newPage())
  await open(again, 'Drafted lantern')
  await again.page.getByTestId('draft').getByRole('button', { name: 'Take it up' }).click()
  await again.layer('Enamel').click()
  await expect(roughness(again)).toHaveValue('0.66')

  // pressed twice, it is saved once
  await again.key('Control+s')
  await again.key('Control+s')
  await expect(again.page.getByTestId('save-state')).toContainText('v2 saved')
  await again.key('Control+s')
  await expect(again.page.getByText('v2 is saved already').first()).toBeVisible()
  expect((await versions(again.page, id)).map(v => v.number)).toEqual([2, 1])
  await again.page.close()
})

test('two windows hear of each other’s saves; work that began from an older version asks before it goes on', async ({
  page,
  context,
}) => {
  const id = await copyOfLantern(page, 'Shared lantern')
  const mine = new BenchPage(page)
  await open(mine, 'Shared lantern')
  const theirs = new BenchPage(await context.newPage())
  await open(theirs, 'Shared lantern')
  await rough(theirs, '0.11')
  await theirs.key('Control+s')
  await expect(theirs.page.getByTestId('save-state')).toContainText('v2 saved')
  // the page that saved hears nothing of itself
  await expect(theirs.page.getByTestId('theirs')).toHaveCount(0)

  await page.bringToFront()
  const notice = page.getByTestId('theirs')
  await expect(notice).toContainText('v2 was saved in another window')
  await notice.getByRole('button', { name: 'Keep mine' }).click()
  await expect(notice).toHaveCount(0)
  await rough(mine, '0.22')
  await theirs.page.bringToFront()
  await rough(theirs, '0.33')
  await theirs.key('Control+s')
  await expect(theirs.page.getByTestId('save-state')).toContainText('v3 saved')
  await page.bringToFront()
  await notice.getByRole('button', { name: 'Look at both' }).click()
  const choice = page.getByRole('alertdialog')
  await expect(choice).toContainText('Theirs is v3, yours is not saved')
  await choice.getByRole('button', { name: 'Go on with theirs' }).click()
  await mine.layer('Enamel').click()
  await expect(roughness(mine)).toHaveValue('0.33')
  // mine is a step of undo away
  await mine.key('Control+z')
  await expect(roughness(mine)).toHaveValue('0.22')
  const kept = page.waitForResponse(r => r.url().includes('/drafts/') && r.request().method() === 'PUT' && r.ok())
  await rough(mine, '0.44')
  await kept
  await page.close()

  await theirs.page.bringToFront()
  await rough(theirs, '0.55')
  await theirs.key('Control+s')
  await expect(theirs.page.getByTestId('save-state')).toContainText('v4 saved')
  const later = new BenchPage(await context.newPage())
  await open(later, 'Shared lantern')
  const offer = later.page.getByTestId('draft')
  await expect(offer).toContainText('it began from v3, the project is at v4 now')
  await offer.getByRole('button', { name: 'Keep it as a version' }).click()
  await expect(later.page.getByText('The unsaved work is kept as v5, beside the line')).toBeVisible()
  expect((await versions(later.page, id)).find(v => v.number === 5)!.aside).toBe(true)
  await later.layer('Enamel').click()
  await expect(roughness(later)).toHaveValue('0.55')
})
