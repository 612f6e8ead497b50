import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { resolve } from 'node:path'
import type {
  PlaywrightTestArgs,
  PlaywrightTestOptions,
  PlaywrightWorkerArgs,
  PlaywrightWorkerOptions,
  TestType,
} from '@playwright/test'

const root = resolve(import.meta.dirname, '..')
export const FIXTURES = resolve(root, '.pw-results/fixtures')
export const PORT = 3217
export const BASE = `http://127.0.0.1:${PORT}`

/** PostgreSQL of the tests: `start`, `stop`, or `crash` as if the machine had lost its power. */
export const pg = (...args: string[]) =>
  execFileSync('bash', ['scripts/pg.sh', ...args], { cwd: root, encoding: 'utf8' })

/** Makes the files to drop, and loads the demo project into the test database: once for all tests. */
export function prepare(): void {
  execFileSync('node', ['scripts/bundle.mjs', 'tests/fixtures.ts', FIXTURES], { cwd: root, stdio: 'inherit' })
  execFileSync('node', ['scripts/bundle.mjs', 'demo/load.ts', '--bare'], { cwd: root, stdio: 'inherit' })
}

/** The built server, on a port of its own. */
export class TestServer {
  private process: ChildProcess | undefined
  private said = ''
  /** @param env what it is told beside what the tests are */
  constructor(private readonly env: Record<string, string> = {}) {}
  async start(): Promise<void> {
    this.process = spawn('node', ['.output/server/index.mjs'], {
      cwd: root,
      env: { ...process.env, HOST: '127.0.0.1', ...this.env, PORT: String(PORT) },
      stdio: ['ignore', 'pipe', 'inherit'],
    })
    this.said = ''
    this.process.stdout!.on('data', (d: Buffer) => {
      this.said += d.toString()
    })
    for (let i = 0; i < 150; i++) {
      await new Promise(r => setTimeout(r, 200))
      if (
        await fetch(`${BASE}/api/ready`).then(
          r => r.ok,
          () => false,
        )
      )
        return
    }
    throw new Error('the server did not start')
  }
  /** Asks it to end. @returns what it logged */
  async end(): Promise<string> {
    const p = this.process!
    await new Promise<void>(r => {
      p.once('close', () => r())
      p.kill('SIGTERM')
    })
    return this.said
      .split('\n')
      .filter(l => l.startsWith('{'))
      .join('\n')
  }
  /** Ends it without warning. */
  async kill(): Promise<void> {
    const p = this.process
    if (!p || p.exitCode !== null || p.signalCode !== null) return
    await new Promise<void>(r => {
      p.once('exit', () => r())
      p.kill('SIGKILL')
    })
  }
}

/** The server with the demo project on it for the tests of a file, and pages whose errors fail them. */
export function serveTests(
  test: TestType<PlaywrightTestArgs & PlaywrightTestOptions, PlaywrightWorkerArgs & PlaywrightWorkerOptions>,
  env: Record<string, string> = {},
): TestServer {
  const server = new TestServer(env)
  test.beforeAll(() => server.start())
  test.afterAll(() => server.kill())
  test.beforeEach(({ page }) => {
    page.on('pageerror', e => {
      throw e
    })
  })
  return server
}
