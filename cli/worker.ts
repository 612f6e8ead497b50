/**
 * `wavelume worker`: computes frames from the queue, one after the other, each on all threads it was given.
 *
 * After every few seconds the sums go to the database between two passes. A worker that is killed leaves its frame
 * to the next: who renders a frame holds a lock that the database lets go of with the connection, so a frame that
 * is running without a holder has been left. Passes are sums in order, so the picture is the same bit for bit,
 * however often that happens.
 */
import { availableParallelism, hostname, setPriority, totalmem } from 'node:os'
import pg from 'pg'
import { connectDatabase } from '../server/database/client'
import { endFrame, takeUpFrame } from '../server/database/frames'
import { FRAMES, takeQueue } from '../server/jobs/queue'
import type { Knex } from 'knex'
import { computeFrame, type How } from './compute-frame'
import { fromEnvironment, InputError, messageOf, type Options } from './options'

/**
 * Seconds between two keepings of the sums at least, between two looks for frames that were left, and between two
 * signs of life.
 */
const KEEP = 4
const LOOK = 5
const SIGN = 10
/** Frames that are queued so long without anybody at them have lost their job. */
const LOST = '30 seconds'
/** What a frame may take: of the machine's memory for its film, and of time, unless the environment says otherwise. */
const LIMITS = { memory: 0.6, hours: 24 }

export async function worker(o: Options): Promise<unknown> {
  const url = process.env.WAVELUME_DATABASE
  if (!url)
    throw new InputError(
      'worker needs the address of the database in WAVELUME_DATABASE; scripts/pg.sh url worker says it',
    )
  const threads = o.number('threads', Math.max(1, availableParallelism() - 1), 1, 64)
  const once = o.has('once')
  const keep = o.number('keep', KEEP, 0, 3600)
  const limits = {
    mebibytes: fromEnvironment('WAVELUME_FRAME_MEMORY', (LIMITS.memory * totalmem()) / 2 ** 20),
    hours: fromEnvironment('WAVELUME_FRAME_HOURS', LIMITS.hours),
  }
  // whoever sits before this machine comes first
  setPriority(10)
  const db = await connectDatabase(url)
  const locks = new pg.Client({ connectionString: url })
  await locks.connect()
  let ended = false
  let working: Promise<void> = Promise.resolve()
  let free = () => {}
  // without its locks this worker cannot know that it is the only one at a frame
  locks.on('error', e => {
    console.error(`the database is gone: ${e.message}`)
    process.exit(1)
  })
  const name = `${hostname()}:${process.pid}`
  const sign = () =>
    db('frame_workers')
      .insert({ name, seen: db.fn.now() })
      .onConflict('name')
      .merge()
      .catch(() => undefined)
  await sign()
  const compute = (id: string): Promise<void> =>
    (working = working.then(() =>
      ended ? undefined : computeLocked(db, locks, id, { threads, keep, ...limits, ended: () => ended }),
    ))
  const queue = await takeQueue(url)
  const lookForLeft = async () => {
    const left = await db('frames')
      .where({ status: 'running' })
      .orWhere(q => q.where({ status: 'queued' }).whereRaw(`created < now() - interval '${LOST}'`))
      .orderBy('created')
      .select('id')
    for (const { id } of left) await compute(id)
  }
  const timers = [
    setInterval(() => void sign(), SIGN * 1000),
    setInterval(() => void lookForLeft().catch(e => console.error(e.message)), LOOK * 1000),
  ]
  const stop = () => {
    ended = true
    free()
  }
  process.once('SIGTERM', stop)
  process.once('SIGINT', stop)
  console.error(`worker ${name} takes frames on ${threads} thread${threads === 1 ? '' : 's'}`)
  await lookForLeft()
  await queue.work<{ id: string }>(FRAMES, { pollingIntervalSeconds: 1, batchSize: 1 }, async ([job]) => {
    await compute(job!.data.id)
    if (once) stop()
  })
  await new Promise<void>(resolve => {
    free = resolve
    if (ended) resolve()
  })
  timers.forEach(clearInterval)
  await working
  await db('frame_workers').where({ name }).delete()
  await queue.stop({ graceful: false, wait: true })
  await locks.end()
  await db.destroy()
  return { stopped: true }
}

/** Computes a frame unless somebody else does or it is not wanted any more. */
async function computeLocked(db: Knex, locks: pg.Client, id: string, how: How): Promise<void> {
  const held = await locks.query<{ got: boolean }>('select pg_try_advisory_lock(hashtextextended($1, 0)) as got', [
    id,
  ])
  if (!held.rows[0]?.got) return
  try {
    const frame = await takeUpFrame(db, id)
    if (!frame) return
    console.error(`${frame.name}: ${frame.seconds > 0 ? 'goes on' : 'begins'}`)
    await computeFrame(db, frame, how)
  } catch (e) {
    const message = messageOf(e)
    console.error(`frame ${id}: ${message}`)
    await endFrame(db, id, { status: 'failed', message: message.slice(0, 500) })
  } finally {
    await locks.query('select pg_advisory_unlock(hashtextextended($1, 0))', [id])
  }
}
