/**
 * `wavelume worker`: computes bands of frames from the queue, one after the other, each on all threads it was given.
 * Any number of workers on any number of machines share what there is.
 *
 * After every few seconds the sums of its band go to the database between two passes. A worker that is killed leaves
 * its band to the next: who computes one holds a lock that the database lets go of with the connection, so a band that
 * was begun and has no holder has been left. Each tile has its passes in order from one band, and sums are exact, so
 * the picture is the same bit for bit, however many workers there are and however often that happens.
 */
import { availableParallelism, hostname, setPriority, totalmem } from 'node:os'
import pg from 'pg'
import { connectDatabase } from '../server/database/client'
import {
  bandsToLookAt,
  bandsWithoutJob,
  endFrame,
  FINISH,
  isComplete,
  takeBand,
  takeUpBand,
} from '../server/database/bands'
import { FRAMES } from '../server/database/queue-name'
import { takeQueue, type FrameJob } from '../server/jobs/queue'
import type { Knex } from 'knex'
import { createFrameBench, type How } from './compute-frame'
import { fromEnvironment, InputError, messageOf, type Options } from './options'

/**
 * Seconds between two keepings of the sums at least, between two looks for frames that were left, and between two
 * signs of life.
 */
const KEEP = 4
const LOOK = 5
const SIGN = 10
/** Seconds between two looks for what the queue has lost. */
const LOST = 60
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
  const bench = createFrameBench(db)
  const how: How = { threads, keep, ...limits, ended: () => ended }
  const compute = (frame: string, band: number): Promise<void> =>
    (working = working.then(() => (ended ? undefined : computeLocked(db, locks, bench, { frame, band }, how))))
  const queue = await takeQueue(url)
  let looking = false
  const look = async (at: typeof bandsToLookAt) => {
    if (looking) return
    looking = true
    try {
      for (const { frame, band } of await at(db)) await compute(frame, band)
    } finally {
      looking = false
    }
  }
  const says = (e: unknown) => console.error(messageOf(e))
  const timers = [
    setInterval(() => void sign(), SIGN * 1000),
    setInterval(() => void look(bandsToLookAt).catch(says), LOOK * 1000),
    setInterval(() => void look(bandsWithoutJob).catch(says), LOST * 1000),
  ]
  const stop = () => {
    ended = true
    free()
  }
  process.once('SIGTERM', stop)
  process.once('SIGINT', stop)
  console.error(`worker ${name} takes frames on ${threads} thread${threads === 1 ? '' : 's'}`)
  await look(bandsToLookAt)
  await queue.work<FrameJob>(FRAMES, { pollingIntervalSeconds: 1, batchSize: 1 }, async ([job]) => {
    const { id, band } = job!.data
    // said at once: it may be a while until its turn comes
    await takeBand(db, id, band)
    await compute(id, band)
    if (once) stop()
  })
  await new Promise<void>(resolve => {
    free = resolve
    if (ended) resolve()
  })
  timers.forEach(clearInterval)
  await working
  bench.close()
  await db('frame_workers').where({ name }).delete()
  await queue.stop({ graceful: false, wait: true })
  await locks.end()
  await db.destroy()
  return { stopped: true }
}

/**
 * Does a share of a frame unless somebody else does or it is not wanted any more, then makes the picture if that was
 * the last.
 */
async function computeLocked(
  db: Knex,
  locks: pg.Client,
  bench: ReturnType<typeof createFrameBench>,
  { frame, band }: { frame: string; band: number },
  how: How,
): Promise<void> {
  const lock = `${frame} ${band}`
  const held = await locks.query<{ got: boolean }>('select pg_try_advisory_lock(hashtextextended($1, 0)) as got', [
    lock,
  ])
  if (!held.rows[0]?.got) return
  try {
    const work = await takeUpBand(db, frame, band)
    if (!work) return
    const of = band === FINISH ? 'its picture' : `${band + 1} of ${work.bands}`
    console.error(`${work.name}, ${of}: ${work.seconds > 0 ? 'goes on' : 'begins'}`)
    await bench.compute(work, how)
    console.error(`${work.name}, ${of}: ${how.ended() ? 'left' : 'done'}`)
  } catch (e) {
    const message = messageOf(e)
    console.error(`frame ${frame}: ${message}`)
    await endFrame(db, frame, { status: 'failed', message: message.slice(0, 500) })
  } finally {
    await locks.query('select pg_advisory_unlock(hashtextextended($1, 0))', [lock])
  }
  if (band !== FINISH && !how.ended() && (await isComplete(db, frame)))
    await computeLocked(db, locks, bench, { frame, band: FINISH }, how)
}
