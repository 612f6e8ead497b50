import { request } from 'node:http'
import { expect, test } from '@playwright/test'
import { Client } from 'pg'
import { z } from 'zod'
import { stateSchema } from '../shared/api'
import { BASE, pg, PORT, TestServer } from './server'

const projectSchema = z.object({ head: z.number(), state: stateSchema })
const server = new TestServer()
test.afterEach(() => server.kill())
test.afterAll(() => {
  pg('start')
})

const json = async (path: string, method = 'GET', body?: unknown) => {
  const r = await fetch(BASE + path, {
    method,
    signal: AbortSignal.timeout(15_000),
    ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  })
  return { status: r.status, body: (await r.json().catch(() => null)) as never }
}

/** A small state that says its own number, so that a half-written one would show. */
const state = (n: number) => ({
  scene: {
    format: 'wavelume-scene',
    version: 1,
    model: 'none',
    parts: [{ name: `part ${n}`, material: 'grey' }],
    materials: { grey: { material: 'grey' } },
    lights: 'Grey',
    rigs: [{ name: 'Grey', environment: { kind: 'uniform', radiance: [n, n, n] } }],
  },
  materials: {
    grey: {
      tag: 'materialx',
      attributes: { version: '1.39', note: String(n) },
      children: Array.from({ length: 200 }, (_, i) => ({
        tag: 'constant',
        attributes: { name: `c${i}`, type: 'float' },
        children: [{ tag: 'input', attributes: { name: 'value', type: 'float', value: String(n) }, children: [] }],
      })),
    },
  },
})

test('the server says how it is, bounds what it is sent, and takes only what it knows', async () => {
  await server.start()
  expect(await json('/api/health')).toMatchObject({ status: 200, body: { status: 'ok' } })
  expect(await json('/api/ready')).toMatchObject({ status: 200, body: { status: 'ready' } })

  const put = async (bytes: string) => {
    const r = await fetch(`${BASE}/api/assets`, {
      method: 'POST',
      body: bytes,
      headers: { 'Content-Type': 'application/octet-stream' },
    })
    return { status: r.status, message: ((await r.json()) as { message?: string }).message }
  }
  for (const hostile of [
    '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>',
    '<html><body>hello</body></html>',
    '',
  ]) {
    const r = await put(hostile)
    expect([400, 415]).toContain(r.status)
    expect(r.message).toMatch(/empty|neither PNG/)
  }
  expect(await json('/api/projects', 'POST', { name: '', state: state(1) })).toMatchObject({
    status: 400,
    body: { message: expect.stringContaining('name') },
  })

  // a body that does not say how long it is ends at its bound
  const status = await new Promise<number>(done => {
    const headers = { 'content-type': 'application/json' }
    const r = request({ host: '127.0.0.1', port: PORT, path: '/api/projects', method: 'POST', headers }, a =>
      done(a.statusCode ?? 0),
    )
    r.on('error', () => done(413)) // the server may hang up first
    const piece = Buffer.alloc(1 << 20, 32)
    let n = 0
    const more = () => {
      while (n < 80) {
        n++
        if (!r.write(piece)) {
          r.once('drain', more)
          return
        }
      }
      r.end()
    }
    more()
  })
  expect(status).toBe(413)

  const answers = await Promise.all(
    Array.from({ length: 400 }, () =>
      fetch(`${BASE}/api/assets`, {
        method: 'POST',
        body: 'x',
        headers: { 'Content-Type': 'application/octet-stream' },
      }).then(r => r.status),
    ),
  )
  expect(answers.filter(s => s === 429).length).toBeGreaterThan(50)
  expect((await json('/api/projects')).status).toBe(200)
})

test('the database lets in nobody without a password, no superuser, and workers to their work alone', async () => {
  await server.start()
  const url = new URL(process.env.WAVELUME_DATABASE!)
  /** What the database says to a query; the code of its error otherwise. */
  const asked = async (as: string, query: string) => {
    const client = new Client({ connectionString: as })
    try {
      await client.connect()
      return (await client.query(query)).rows as unknown[]
    } catch (e) {
      return (e as { code?: string; message: string }).code ?? (e as Error).message
    } finally {
      await client.end().catch(() => undefined)
    }
  }
  const by = (change: (u: URL) => void) => {
    const u = new URL(url)
    change(u)
    return u.href
  }
  // PostgreSQL, appendix A: 28P01 wrong password, 28000 not let in, 42501 not allowed
  expect(
    await asked(
      by(u => (u.password = 'wrong')),
      'select 1',
    ),
  ).toBe('28P01')
  for (const name of ['postgres', 'root'])
    expect(
      await asked(
        by(u => ([u.username, u.pathname] = [name, '/postgres'])),
        'select 1',
      ),
    ).toBe('28000')
  expect(await asked(url.href, 'select usesuper from pg_user where usename = current_user')).toEqual([
    { usesuper: false },
  ])
  expect(await asked(url.href, "select pg_read_file('/etc/passwd')")).toBe('42501')
  const worker = pg('url', 'worker').trim()
  expect(await asked(worker, 'select count(*) from frames')).toHaveLength(1)
  for (const act of [
    'delete from projects',
    'delete from assets',
    "update projects set name = 'x'",
    'select * from versions',
    'select * from drafts',
    'drop table frames',
    'create table mine (i int)',
  ])
    expect([act, await asked(worker, act)]).toEqual([act, '42501'])
})

test('what cannot be kept is refused with the place and the reason, never by a failure of the server', async () => {
  await server.start()
  const { body } = await json('/api/projects', 'POST', { name: 'Bad input 😀', state: state(1) })
  const { id, name } = body as { id: string; name: string }
  expect(name).toBe('Bad input 😀')
  const none = '0'.repeat(64)
  const proof = { kind: 'proof', name: 'p', width: 1, height: 1, picture: none, thumbnail: null, settings: {} }
  const deep = JSON.parse('['.repeat(2000) + ']'.repeat(2000)) as unknown
  let nested: object = { tag: 'input', attributes: {}, children: [] }
  for (let i = 0; i < 1999; i++) nested = { tag: 'nodegraph', attributes: {}, children: [nested] }
  const { scene } = state(1)
  const bad: [string, string, unknown, number, RegExp][] = [
    ['/api/projects', 'POST', { name: 'nul\0', state: state(1) }, 400, /name: holds a character/],
    ['/api/projects', 'POST', { name: 'half \ud83d', state: state(1) }, 400, /name: holds a character/],
    ['/api/projects', 'POST', { name: 'deep', state: deep }, 400, /nested more than/],
    [
      '/api/projects',
      'POST',
      { name: 'deep', state: { scene, materials: { grey: nested } } },
      400,
      /nested more than/,
    ],
    [`/api/projects/${id}`, 'PATCH', { name: '\0' }, 400, /name: holds a character/],
    [`/api/projects/${id}?version=1e300`, 'GET', undefined, 400, /whole number/],
    [`/api/projects/${id}?version=3000000000`, 'GET', undefined, 400, /whole number/],
    [`/api/projects/${id}?version=constructor`, 'GET', undefined, 400, /whole number/],
    ['/api/projects/constructor', 'GET', undefined, 404, /no such project/],
    [`/api/projects/${id}/versions`, 'POST', { base: 3e9, state: state(1) }, 400, /base/],
    [
      `/api/projects/${id}/versions`,
      'POST',
      { base: 1, thumbnail: none, state: state(1) },
      400,
      /refers to a picture/,
    ],
    [`/api/projects/${id}/proofs`, 'POST', proof, 400, /refers to a picture/],
    [`/api/projects/${id}/proofs/${none}`, 'DELETE', undefined, 404, /no such proof/],
    [`/api/frames/${'x'.repeat(3000)}/stop`, 'POST', undefined, 404, /no such frame/],
    ['/api/assets/__proto__', 'GET', undefined, 404, /no such file/],
    [`/api/geometry/${none}?version=1e99`, 'GET', undefined, 400, /version/],
  ]
  for (const [path, method, sent, status, says] of bad) {
    const answer = await json(path, method, sent)
    expect([path, method, answer.status]).toEqual([path, method, status])
    expect((answer.body as { message: string }).message).toMatch(says)
  }
  // one name that means something to the language breaks no list
  for (const word of ['__proto__', 'constructor', 'toString'])
    expect((await json('/api/projects', 'POST', { name: word, state: state(1) })).status).toBe(201)
  expect((await json('/api/projects')).status).toBe(200)
  // with the database gone it is said, and it goes on when that is back
  pg('stop')
  expect((await json('/api/ready')).status).toBe(503)
  expect(await json('/api/projects')).toMatchObject({
    status: 503,
    body: { message: expect.stringContaining('does not answer') },
  })
  pg('start')
  await expect.poll(async () => (await json('/api/projects')).status).toBe(200)
})

test('asked to end, the server answers what is under way and lets go of the database', async () => {
  await server.start()
  const { body } = await json('/api/projects', 'POST', { name: 'Ending', state: state(1) })
  const id = (body as { id: string }).id
  // the server has said that it takes the request: then it is told to end, and only then the rest is sent
  const saving = request(`${BASE}/api/projects/${id}/versions`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'expect': '100-continue' },
  })
  const answered = new Promise<number>((resolve, reject) => {
    saving.on('response', r => resolve(r.resume().statusCode!))
    saving.on('error', reject)
  })
  saving.flushHeaders()
  await new Promise(resolve => saving.on('continue', resolve))
  const ended = server.end()
  saving.end(JSON.stringify({ base: 1, state: state(2) }))
  expect(await answered).toBeLessThan(300)
  const lines = (await ended)
    .trim()
    .split('\n')
    .map(l => JSON.parse(l) as { msg: string; path?: string; status?: number })
  expect(
    lines.some(l => l.msg === 'request' && l.path === `/api/projects/${id}/versions` && l.status === 201),
  ).toBe(true)
  expect(lines.at(-1)!.msg).toBe('stopped')
})

test(
  'five kills of the server and of the database at random moments lose no acknowledged save and show no ' +
    'half-written one',
  async () => {
    let seed = 7
    const random = () => (seed = (seed * 48271) % 2147483647) / 2147483647
    await server.start()
    const { body } = await json('/api/projects', 'POST', { name: 'Killed', state: state(1) })
    const id = (body as { id: string }).id
    let head = 1
    let note = 1
    /** What each acknowledged version says, by its number; every one of them is read again after every kill. */
    const acknowledged = new Map([[1, 1]])
    /** Reads a version. @returns what it says, the same in all its places */
    const noteOf = async (number: number) => {
      const project = projectSchema.parse((await json(`/api/projects/${id}?version=${number}`)).body)
      const says = project.state.materials.grey!.attributes.note!
      expect(project.state.scene.parts[0]!.name).toBe(`part ${says}`)
      const values = project.state.materials.grey!.children.map(c => c.children[0]!.attributes.value)
      expect(new Set(values)).toEqual(new Set([says]))
      return Number(says)
    }
    for (let kill = 0; kill < 5; kill++) {
      let stop = false
      let acts = 0
      const kills = async () => {
        await new Promise(r => setTimeout(r, 60 + random() * 400))
        if (kill % 2 === 0) await server.kill()
        else pg('crash')
        stop = true
      }
      // the end comes at some moment after the first save of its round was acknowledged
      let killing: Promise<void> | undefined
      while (!stop) {
        note++
        const body = { base: head, state: state(note) }
        const answer = await json(`/api/projects/${id}/versions`, 'POST', body).catch(() => null)
        if (!answer || answer.status >= 300) {
          await new Promise(r => setTimeout(r, 20))
          continue
        }
        head = (answer.body as { number: number }).number
        acknowledged.set(head, note)
        acts++
        killing ??= kills()
      }
      await killing
      expect(acts).toBeGreaterThan(0)
      if (kill % 2 === 1) pg('start')
      await server.kill()
      await server.start()
      for (const [number, says] of acknowledged) expect(await noteOf(number)).toBe(says)
      const project = projectSchema.parse((await json(`/api/projects/${id}`)).body)
      // the last acknowledged save, or one that was under way when the end came: whole in either case
      const last = acknowledged.get(head)!
      expect(project.head).toBeGreaterThanOrEqual(head)
      head = project.head
      expect(await noteOf(head)).toBeGreaterThanOrEqual(last)
    }
    expect(acknowledged.size).toBeGreaterThan(5)
  },
)
