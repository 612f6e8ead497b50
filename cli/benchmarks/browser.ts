import { execFileSync, spawn } from 'node:child_process'
import { resolve } from 'node:path'
import type { Browser, Page } from '@playwright/test'

const PORT = 3391
export const BASE = `http://127.0.0.1:${PORT}`

/** Builds the application, serves it on the demo data, and gives a browser to some work. */
export async function withBench<T>(work: (browser: Browser) => Promise<T>): Promise<T> {
  const root = resolve(import.meta.dirname, '../..')
  execFileSync('bash', ['scripts/build.sh'], { cwd: root, stdio: ['ignore', 2, 2] })
  const url =
    process.env.WAVELUME_DATABASE ??
    execFileSync('bash', ['scripts/pg.sh', 'start'], { cwd: root, encoding: 'utf8' }).trim()
  const env = { ...process.env, WAVELUME_DATABASE: url, HOST: '127.0.0.1', PORT: String(PORT) }
  execFileSync('node', ['scripts/bundle.mjs', 'demo/load.ts'], { cwd: root, env, stdio: ['ignore', 2, 2] })
  const server = spawn('node', ['.output/server/index.mjs'], { cwd: root, env, stdio: 'ignore' })
  const { chromium } = await import('@playwright/test')
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: [
      ...(process.getuid?.() === 0 ? ['--no-sandbox'] : []),
      '--disable-gpu',
      '--disable-dev-shm-usage',
      '--disable-background-networking',
    ],
  })
  try {
    for (
      let i = 0;
      i < 100 &&
      !(await fetch(`${BASE}/api/ready`).then(
        r => r.ok,
        () => false,
      ));
      i++
    )
      await new Promise(r => setTimeout(r, 100))
    return await work(browser)
  } finally {
    await browser.close()
    server.kill()
  }
}

/** The demo lantern's project. */
export async function lanternId(): Promise<string> {
  const list = (await (await fetch(`${BASE}/api/projects`)).json()) as { id: string; name: string }[]
  return list.find(p => p.name === 'Skerry lantern')!.id
}

/** Opens the bench of a project, and waits until its picture has so many passes. */
export async function openBench(page: Page, id: string, passes: number): Promise<void> {
  await page.goto(`${BASE}/bench/${id}`)
  await page.waitForFunction(
    wanted => Number(document.querySelector('[data-testid=samples]')?.textContent) >= wanted,
    passes,
    { timeout: 120_000 },
  )
}
