/**
 * How frames are shared: passes of n workers against those of one, and what the database takes for claiming a band and
 * for keeping a piece, from which follows how many workers one database carries.
 */
import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { availableParallelism } from 'node:os'
import { resolve } from 'node:path'
import type { Knex } from 'knex'
import type PgBoss from 'pg-boss'
import { frameSchema } from '../../shared/api'
import { median } from './median'
import type { Benchmark } from '../command'

const root = resolve(import.meta.dirname, '../..')
/** Size and passes of the frame that is shared, and paths of a band of it: many bands, so that none ends alone. */
const FRAME = { width: 480, height: 300, passes: 96 }
const BAND = 400_000
const ROUNDS = 3
/** Jobs that wait while claims are timed, and bytes of a piece: 64² pixels with part, normal and colour, packed. */
const WAITING = 10_000
const PIECE = 120_000
const TIMED = 300
/** Seconds of work in a band, and between two keepings of its pieces: what workers ask of the database. */
const BAND_SECONDS = 30
const KEEP_SECONDS = 4

interface Stage {
  db: Knex
  queue: PgBoss
  url: string
}

/** Workers of one thread each, once all of them have said that they are there. */
async function startWorkers({ db, url }: Stage, count: number): Promise<ChildProcess[]> {
  await db('frame_workers').delete()
  const workers = Array.from({ length: count }, () =>
    spawn('node', ['scripts/cli.mjs', 'worker', '--threads', '1'], {
      cwd: root,
      env: { ...process.env, WAVELUME_DATABASE: url },
      stdio: 'ignore',
    }),
  )
  while (Number((await db('frame_workers').count('* as n').first())?.n ?? 0) < count)
    await new Promise(r => setTimeout(r, 100))
  return workers
}

/** Milliseconds that workers take for a frame, from asking to its picture. */
async function timeOf(stage: Stage, count: number): Promise<number> {
  const { db, queue } = stage
  const [{ addFrames }, { queueFrames }, { listProjects, readProject }] = await Promise.all([
    import('../../server/database/frames'),
    import('../../server/jobs/queue'),
    import('../../server/database/projects'),
  ])
  const project = (await listProjects(db)).find(p => p.name === 'Skerry lantern')!
  const { state } = (await readProject(db, project.id))!
  const frame = frameSchema.parse({
    name: 'Shared',
    settings: { ...FRAME, camera: state.scene.cameras[0] },
    state,
  })
  const workers = await startWorkers(stage, count)
  try {
    const began = performance.now()
    const [id] = (await addFrames(db, project.id, [frame], (trx, shares) => queueFrames(queue, trx, shares)))!
    for (;;) {
      const row = await db('frames').where({ id }).first('status', 'message')
      if (row.status === 'failed') throw new Error(row.message)
      if (row.status === 'done') return performance.now() - began
      await new Promise(r => setTimeout(r, 50))
    }
  } finally {
    await Promise.all(
      workers.map(
        w =>
          new Promise(r => {
            w.once('exit', r)
            w.kill('SIGTERM')
          }),
      ),
    )
  }
}

/** Milliseconds of a claim with many jobs waiting, and of keeping a piece. */
async function databaseTimes({ db, queue }: Stage): Promise<{ claim: number; keep: number }> {
  const { FRAMES } = await import('../../server/database/queue-name')
  const job = { name: FRAMES, data: { id: '00000000-0000-4000-8000-000000000000', band: 0 } }
  await queue.insert(Array.from({ length: WAITING }, (_, i) => ({ ...job, priority: -(i % 997) })))
  const timed = async (work: (i: number) => Promise<unknown>): Promise<number> => {
    const began = performance.now()
    for (let i = 0; i < TIMED; i++) await work(i)
    return (performance.now() - began) / TIMED
  }
  const claim = await timed(async () => {
    const [taken] = await queue.fetch(FRAMES)
    await queue.complete(FRAMES, taken!.id)
  })
  await queue.purgeQueue(FRAMES)
  const bytes = randomBytes(PIECE)
  await db.raw('create table if not exists benchmark_kept (piece integer primary key, bytes bytea not null)')
  const keep = await timed(i =>
    db('benchmark_kept')
      .insert({ piece: i % 50, bytes })
      .onConflict('piece')
      .merge(),
  )
  await db.schema.dropTable('benchmark_kept')
  return { claim, keep }
}

async function workers(): Promise<unknown> {
  const url =
    process.env.WAVELUME_DATABASE ??
    execFileSync('bash', ['scripts/pg.sh', 'start'], { cwd: root, encoding: 'utf8' }).trim()
  process.env.WAVELUME_DATABASE = url
  process.env.WAVELUME_BAND_PATHS = String(BAND)
  execFileSync('node', ['scripts/bundle.mjs', 'demo/load.ts', '--bare'], { cwd: root, stdio: ['ignore', 2, 2] })
  const { openDatabase, closeDatabase } = await import('../../server/database/client')
  const { openQueue, closeQueue } = await import('../../server/jobs/queue')
  const stage: Stage = { url, db: await openDatabase(url), queue: await openQueue(url) }
  try {
    const cores = availableParallelism()
    const took: Record<number, number[]> = { 1: [], [cores]: [] }
    for (let round = 0; round < ROUNDS; round++)
      for (const count of [1, cores]) took[count]!.push(await timeOf(stage, count))
    const share = median(took[1]!) / median(took[cores]!) / cores
    const { claim, keep } = await databaseTimes(stage)
    // a band of a frame of HD is some 20 pieces
    const piecesOfBand = 20
    const each = claim / BAND_SECONDS + (keep * piecesOfBand) / Math.max(KEEP_SECONDS, BAND_SECONDS / 2)
    return {
      workers: cores,
      ofLinear: +share.toFixed(3),
      milliseconds: { claim: +claim.toFixed(2), keepPiece: +keep.toFixed(2) },
      workersOfOneConnection: Math.floor(1000 / each),
      accept: { ofLinear: 0.9 },
    }
  } finally {
    await closeQueue()
    await closeDatabase()
  }
}

export const benchmark: Benchmark = { options: '', run: workers }
