import { createServer, request, type Server } from 'node:http'
import { connect, type AddressInfo } from 'node:net'
import { expect, test } from '@playwright/test'
import { BASE, PORT, serveTests } from './server'

/** A name that leads to this machine, as anybody's can, and one that the server is told. */
const REBOUND = 'rebound.test'
const TOLD = 'bench.test'
// no HOST: what the server listens on by itself is looked at
serveTests(test, { WAVELUME_HOSTS: TOLD, HOST: '' })
test.use({
  launchOptions: [
    async ({ launchOptions }, use) =>
      use({
        ...launchOptions,
        args: [...(launchOptions.args ?? []), '--host-resolver-rules=MAP *.test 127.0.0.1'],
      }),
    { scope: 'worker' },
  ],
})

/** A page of somebody else's, on another port. */
async function foreignPage(): Promise<{ at: string; server: Server }> {
  const foreign = createServer((_, answer) => {
    answer.setHeader('content-type', 'text/html')
    answer.end('<!doctype html><title>elsewhere</title>')
  })
  await new Promise<void>(r => foreign.listen(0, '127.0.0.1', r))
  return { at: `http://127.0.0.1:${(foreign.address() as AddressInfo).port}`, server: foreign }
}
/** Status of a request under another name. */
const asked = (host: string, path: string, method = 'GET') =>
  new Promise<number>((resolve, reject) => {
    const r = request({ host: '127.0.0.1', port: PORT, path, method, headers: { host } }, a =>
      resolve(a.resume().statusCode!),
    )
    r.on('error', reject)
    r.end()
  })

test('foreign pages and names read nothing and change nothing; the server is on loopback by itself', async ({
  page,
}) => {
  const projects = async () =>
    ((await (await fetch(`${BASE}/api/projects`)).json()) as { id: string; name: string }[]).map(p => p.name)
  const before = await projects()
  expect(before).toContain('Skerry lantern')
  for (const path of ['/', '/api/projects', '/api/health'])
    expect(await asked(`${REBOUND}:${PORT}`, path)).toBe(403)
  expect(await asked(`${TOLD}:${PORT}`, '/api/projects')).toBe(200)

  const foreign = await foreignPage()
  try {
    await page.goto(foreign.at)
    // a form needs no leave of the server's to be sent
    await page.evaluate(base => {
      const form = document.createElement('form')
      form.method = 'POST'
      form.action = `${base}/api/projects`
      form.enctype = 'text/plain'
      const field = document.createElement('input')
      field.name = '{"name":"Smuggled","state":{},"x":"'
      field.value = '"}'
      form.append(field)
      document.body.append(form)
      form.submit()
    }, BASE)
    await page.waitForURL(`${BASE}/api/projects`)
    await expect(page.locator('body')).toContainText('Only pages of this server')
    await page.goto(foreign.at)
    const read = await page.evaluate(
      base =>
        fetch(`${base}/api/projects`, { mode: 'no-cors' }).then(
          r => r.type,
          () => 'refused',
        ),
      BASE,
    )
    expect(['opaque', 'refused']).toContain(read)
  } finally {
    foreign.server.close()
  }
  expect(await projects()).toEqual(before)

  // another address of this machine's loopback, which a server that listens everywhere would answer at
  const open = await new Promise<boolean>(resolve => {
    const socket = connect(PORT, '127.0.0.2')
    socket.on('connect', () => {
      socket.destroy()
      resolve(true)
    })
    socket.on('error', () => resolve(false))
  })
  expect(open).toBe(false)
})

test('where the browser gives no shared memory the page says why, and what helps', async ({ page }) => {
  await page.goto(`http://${TOLD}:${PORT}/`)
  await expect(page.getByRole('heading', { name: 'Wavelume cannot render here' })).toBeVisible()
  await expect(page.getByText('without HTTPS')).toBeVisible()
  await expect(page.getByRole('link', { name: `http://127.0.0.1:${PORT}` })).toBeVisible()
})
