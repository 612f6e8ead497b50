import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { expect, test } from '@playwright/test'
import { z } from 'zod'
import { BenchPage } from './bench-page'
import { BASE, pg, serveTests } from './server'

// bands of two passes of a small frame: what large frames are shared as
serveTests(test, { WAVELUME_BAND_PATHS: '150000' })
const frameSchema = z.object({
  frames: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      status: z.string(),
      passes: z.number(),
      picture: z.string().nullable(),
      message: z.string(),
    }),
  ),
  workers: z.number(),
})
const frames = async () => frameSchema.parse(await (await fetch(`${BASE}/api/frames`)).json())
const frame = async (name: string) => (await frames()).frames.find(f => f.name === name)!
const wavelume = (...args: string[]) =>
  execFileSync('node', ['scripts/cli.mjs', ...args], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'inherit'] })

/** Starts a worker. Its sums are kept after every pass. */
function startWorker(): { kill(): Promise<void>; said(): string; process: ChildProcess } {
  const child = spawn('node', ['scripts/cli.mjs', 'worker', '--threads', '1', '--keep', '0'], {
    stdio: ['ignore', 'inherit', 'pipe'],
    // with a worker's rights alone
    env: { ...process.env, WAVELUME_DATABASE: pg('url', 'worker').trim() },
  })
  let said = ''
  child.stderr!.on('data', (d: Buffer) => {
    said += d.toString()
  })
  return {
    process: child,
    said: () => said,
    kill: () =>
      new Promise(resolve => {
        child.once('exit', () => resolve())
        child.kill('SIGKILL')
      }),
  }
}
const until = async (what: () => Promise<boolean>) => {
  await expect.poll(what, { timeout: 150_000, intervals: [100] }).toBe(true)
}

test('a frame that is killed five times ends with the bits of an undisturbed one, which are those of render', async ({
  page,
}) => {
  test.setTimeout(420_000)
  // other tests leave frames of their own on the list
  const bench = new BenchPage(page)
  const row = (status: string, name: string) => page.locator(`tr.frame-${status}`).filter({ hasText: name })
  // other tests work on the demo project: this one takes it as it came
  const first = z
    .array(z.object({ id: z.string(), name: z.string() }))
    .parse(await (await fetch(`${BASE}/api/projects`)).json())
    .find(p => p.name === 'Skerry lantern')!
  const { state } = (await (await fetch(`${BASE}/api/projects/${first.id}?version=1`)).json()) as {
    state: unknown
  }
  await fetch(`${BASE}/api/projects`, {
    method: 'POST',
    body: JSON.stringify({ name: 'Framed lantern', state }),
    headers: { 'content-type': 'application/json' },
  })
  await bench.open('Framed lantern')
  const ask = async (name: string, passes: string) => {
    await page.keyboard.press('Shift+F')
    const dialog = page.getByTestId('frame-dialog')
    await dialog.getByLabel('Name').fill(name)
    await bench.choose(dialog.getByLabel('Size'), /half the view/)
    await dialog.getByLabel('Samples').fill(passes)
    await dialog.getByLabel('each light apart').check()
    await dialog.getByRole('button', { name: 'Put into the queue' }).click()
    await expect(dialog).toBeHidden()
  }
  await ask('Killed', '8')
  await page.getByRole('link', { name: 'Frames' }).click()
  await expect(page.getByTestId('no-worker')).toBeVisible()
  await expect(row('queued', 'Killed')).toContainText('0 of 8 samples')
  let worker = startWorker()
  let seen = 0
  let seed = 5
  const random = () => (seed = (seed * 48271) % 2147483647) / 2147483647
  try {
    for (let kill = 0; kill < 5; kill++) {
      await until(async () => (await frame('Killed')).passes > seen)
      // no wait for anything: the moment of the kill
      await new Promise(r => setTimeout(r, random() * 900))
      await worker.kill()
      seen = (await frame('Killed')).passes
      expect((await frame('Killed')).status).toBe('running')
      worker = startWorker()
    }
    expect(seen).toBeGreaterThanOrEqual(5)
    await until(async () => (await frame('Killed')).status === 'done')
    await expect(row('done', 'Killed')).toContainText('8 samples')

    // undisturbed, the same frame has the same bytes: pictures are kept by the hash of their content
    await page.goBack()
    await bench.settled()
    // two workers share it
    const second = startWorker()
    await until(async () => (await frames()).workers >= 2)
    await ask('Undisturbed', '8')
    // the worker gives way to whoever sits before the machine: a view that goes on refining would keep it waiting
    await page.getByRole('link', { name: 'Frames' }).click()
    await until(async () => (await frame('Undisturbed')).status === 'done')
    expect((await frame('Undisturbed')).picture).toBe((await frame('Killed')).picture)
    for (const w of [worker, second]) expect(w.said()).toMatch(/Undisturbed, \d of [2-9]: done/)
    await second.kill()
    await page.goBack()
    await bench.settled()

    // and one that nobody wants any more is left after the pass under way
    await ask('Unwanted', '500')
    await page.getByRole('link', { name: 'Frames' }).click()
    await until(async () => (await frame('Unwanted')).passes > 0)
    await page.getByRole('button', { name: 'Stop Unwanted' }).click()
    await expect(row('stopped', 'Unwanted')).toBeVisible()
    await page.getByRole('button', { name: 'Take Unwanted off the list' }).click()
    await expect(page.getByRole('button', { name: 'Take Unwanted off the list' })).toBeHidden()
  } finally {
    await worker.kill()
  }

  await page.getByRole('button', { name: 'Keep Killed as a proof' }).click()
  await expect(page.getByText(/Killed is proof \d+ of Framed lantern/)).toBeVisible()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save Killed as EXR' }).click(),
  ])
  const saved = test.info().outputPath('frame.exr')
  await download.saveAs(saved)
  const folder = test.info().outputPath('scenes')
  const again = test.info().outputPath('again.exr')
  execFileSync('node', ['scripts/bundle.mjs', 'demo/export.ts', folder], { stdio: 'ignore' })
  const size = /(\d+) × (\d+)/.exec((await row('done', 'Killed').textContent())!)!
  wavelume(
    'render',
    `${folder}/skerry-lantern.scene.json`,
    '-o',
    again,
    '--size',
    `${size[1]}x${size[2]}`,
    '--passes',
    '8',
    '--aov',
    'lights',
  )
  expect(JSON.parse(wavelume('compare', saved, again, '--metric', 'rmse', '--json')).rmse).toBe(0)
})
