/**
 * The queue between the server, which takes in frames, and the workers that compute them: pg-boss in the same
 * database.
 */
import type { Knex } from 'knex'
import type pg from 'pg'
import PgBoss from 'pg-boss'
import { openDatabase } from '../database/client'
import type { NewShares } from '../database/frames'
import { FRAMES, QUEUE_SCHEMA } from '../database/queue-name'
import { grantQueue } from '../database/worker-grants'
import { once } from '../once'

/**
 * A frame that no worker has finished after this is tried again, seconds; a worker that was killed is noticed much
 * earlier, see cli/worker.ts.
 */
const LONGEST = 12 * 3600
const RETRIES = 3

/** A worker neither makes tables nor tidies them. */
const TAKING = { application_name: 'wavelume-worker', migrate: false, supervise: false, schedule: false }

const boss = once<PgBoss>(
  async url => {
    const b = new PgBoss({
      connectionString: url,
      max: 2,
      schema: QUEUE_SCHEMA,
      application_name: 'wavelume-queue',
    })
    b.on('error', e => console.error(`queue: ${e.message}`))
    await b.start()
    await b.createQueue(FRAMES, { name: FRAMES, retryLimit: RETRIES, expireInSeconds: LONGEST })
    await grantQueue(await openDatabase(url), QUEUE_SCHEMA)
    return b
  },
  b => b.stop({ graceful: false, wait: true }),
)

/** Opens the queue for a worker, who takes jobs and sets nothing up. */
export async function takeQueue(url: string): Promise<PgBoss> {
  const b = new PgBoss({ connectionString: url, max: 2, schema: QUEUE_SCHEMA, ...TAKING })
  b.on('error', e => console.error(`queue: ${e.message}`))
  return b.start()
}

/** Opens the queue once. @param url connection address of the database */
export const openQueue = boss.open
export const closeQueue = boss.close

/** What a job says: a band of a frame. */
export interface FrameJob {
  id: string
  band: number
}

/**
 * Puts the bands of frames of one project into the queue on a transaction of the same database. Jobs with a higher
 * priority come first: those of a project that has others waiting come after as many of everybody else's, so that a
 * long queue of one does not hold back a single frame of another.
 * @param priority of all their jobs beside that
 */
export async function queueFrames(
  boss: PgBoss,
  trx: Knex.Transaction,
  { project, frames }: NewShares,
  priority = 0,
): Promise<void> {
  const connection = (await trx.client.acquireConnection()) as pg.Client
  const db = { executeSql: (text: string, values: unknown[]) => connection.query(text, values) }
  const { rows } = await trx.raw<{ rows: { waiting: number }[] }>(
    `select count(*)::integer as waiting from ${QUEUE_SCHEMA}.job j join frames f on f.id::text = j.data ->> 'id' ` +
      "where j.name = ? and j.state in ('created', 'retry') and f.project = ?",
    [FRAMES, project],
  )
  const { waiting } = rows[0]!
  const jobs = frames
    .flatMap(({ id, bands }) => Array.from({ length: bands }, (_, band): FrameJob => ({ id, band })))
    .map((data, i) => ({
      name: FRAMES,
      data,
      priority: priority - waiting - i,
      retryLimit: RETRIES,
      expireInSeconds: LONGEST,
    }))
  await boss.insert(jobs, { db } as PgBoss.InsertOptions)
}
