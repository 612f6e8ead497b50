import { chromium, expect, test, type BrowserServer, type Page } from '@playwright/test'
import { z } from 'zod'
import { stateSchema } from '../shared/api'
import { BenchPage } from './bench-page'
import { BASE, FIXTURES, pg, serveTests } from './server'

const server = serveTests(test)
const projectSchema = z.object({ name: z.string(), head: z.number(), state: stateSchema })
const proofsSchema = z.array(
  z.object({
    number: z.number(),
    kind: z.string(),
    picture: z.string(),
    thumbnail: z.string().nullable(),
    settings: z.record(z.string(), z.unknown()),
  }),
)
const get = async (path: string): Promise<unknown> => {
  const r = await fetch(BASE + path)
  expect(r.status, path).toBe(200)
  return r.json()
}

/** A browser of its own that can be killed without warning. */
async function ownBrowser(launch: {
  executablePath?: string
  args?: string[]
}): Promise<{ kill(): Promise<void>; page: Page; launched: BrowserServer }> {
  const launched = await chromium.launchServer(launch)
  const browser = await chromium.connect(launched.wsEndpoint())
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  return { launched, page, kill: () => launched.kill() }
}

const DOING = {
  saving: async (page: Page) => {
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('Control+s')
  },
  proofing: async (page: Page) => {
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
    await page.keyboard.press('k')
  },
  importing: async (page: Page) => {
    await page.goto(BASE)
    await page.getByTestId('new-project').setInputFiles(`${FIXTURES}/beacon.glb`)
  },
}
const KILLS: [what: 'browser' | 'server' | 'database', doing: keyof typeof DOING][] = [
  ['browser', 'importing'],
  ['browser', 'proofing'],
  ['server', 'importing'],
  ['database', 'proofing'],
  ['browser', 'saving'],
]

test(
  'kills of the browser, the server and the database while saving, importing and proofing leave whole ' +
    'documents and what was acknowledged',
  { tag: '@long' },
  async ({ launchOptions }) => {
    test.setTimeout(420_000)
    let seed = 11
    const random = () => (seed = (seed * 48271) % 2147483647) / 2147483647
    // what other tests have left there may name models that never were; a lantern of our own is worked on, so that
    // theirs stays as it is
    const before = z.array(z.object({ id: z.string(), name: z.string() })).parse(await get('/api/projects'))
    const others = new Set(before.map(p => p.id))
    const NAME = 'Killed lantern'
    const change = (path: string, method: string, body?: object) =>
      fetch(`${BASE}/api/projects/${path}`, {
        method,
        ...(body ? { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } } : {}),
      })
    const { id } = (await (
      await change(`${before.find(p => p.name === 'Skerry lantern')!.id}/copy`, 'POST')
    ).json()) as { id: string }
    await change(id, 'PATCH', { name: NAME })
    let acknowledged = { head: 1, proofs: 0 }
    for (const [what, doing] of KILLS) {
      const own = await ownBrowser(launchOptions)
      const bench = new BenchPage(own.page)
      await bench.open(NAME, false)
      await bench.layer('Enamel').click()
      await bench.property('specular_roughness').locator('input[type=range]').focus()
      await DOING[doing](own.page)
      await new Promise(r => setTimeout(r, 20 + random() * 900))
      // what the page has been told stands before the end comes
      const told = {
        saved: await own.page
          .getByTestId('save-state')
          .textContent({ timeout: 500 })
          .catch(() => ''),
        proofs: await own.page
          .getByText(/Kept as proof/)
          .count()
          .catch(() => 0),
      }
      if (what === 'browser') await own.kill()
      else if (what === 'server') await server.kill()
      else pg('crash')
      await own.kill()
      if (what === 'database') pg('start')
      if (what !== 'browser') {
        await server.kill()
        await server.start()
      }

      const version = Number(/v(\d+) saved/.exec(told.saved ?? '')?.[1] ?? 0)
      acknowledged = { head: Math.max(acknowledged.head, version), proofs: acknowledged.proofs + told.proofs }
      const list = z.array(z.object({ id: z.string(), name: z.string() })).parse(await get('/api/projects'))
      for (const p of list) {
        if (others.has(p.id)) continue
        const project = projectSchema.parse(await get(`/api/projects/${p.id}`))
        for (const part of project.state.scene.parts)
          expect(Object.keys(project.state.materials)).toContain(part.material)
        expect(
          (await fetch(`${BASE}/api/assets/${project.state.scene.model}`)).status,
          `${what} killed while ${doing}: model of ${p.name}`,
        ).toBe(200)
        const proofs = proofsSchema.parse(await get(`/api/projects/${p.id}/proofs`))
        for (const proof of proofs)
          for (const asset of [proof.picture, proof.thumbnail])
            if (asset !== null) expect((await fetch(`${BASE}/api/assets/${asset}`)).status).toBe(200)
        if (p.name !== NAME) continue
        expect(project.head).toBeGreaterThanOrEqual(acknowledged.head)
        expect(proofs.filter(x => x.kind === 'proof').length).toBeGreaterThanOrEqual(acknowledged.proofs)
      }
    }
    // the bench opens as ever
    const own = await ownBrowser(launchOptions)
    const bench = new BenchPage(own.page)
    await bench.open(NAME, false)
    await bench.key('k')
    await expect(own.page.getByText(/Kept as proof/).first()).toBeVisible()
    await own.page.context().browser()!.close()
    await change(id, 'DELETE')
    await own.launched.close()
  },
)
