/**
 * The queue between the server, which takes in frames, and the workers that compute them: pg-boss in the same
 * database.
 */
import type { Knex } from 'knex'
import type pg from 'pg'
import PgBoss from 'pg-boss'
import { openDatabase } from '../database/client'
import { grantQueue } from '../database/worker-grants'
import { once } from '../once'

export const FRAMES = 'frames'
/**
 * A frame that no worker has finished after this is tried again, seconds; a worker that was killed is noticed much
 * earlier, see cli/worker.ts.
 */
const LONGEST = 12 * 3600

/** Where the queue keeps its tables. */
const SCHEMA = 'pgboss'
/** A worker neither makes tables nor tidies them. */
const TAKING = { application_name: 'wavelume-worker', migrate: false, supervise: false, schedule: false }

const boss = once<PgBoss>(
  async url => {
    const b = new PgBoss({ connectionString: url, max: 2, schema: SCHEMA, application_name: 'wavelume-queue' })
    b.on('error', e => console.error(`queue: ${e.message}`))
    await b.start()
    await b.createQueue(FRAMES, { name: FRAMES, retryLimit: 3, expireInSeconds: LONGEST })
    await grantQueue(await openDatabase(url), SCHEMA)
    return b
  },
  b => b.stop({ graceful: false, wait: true }),
)

/** Opens the queue for a worker, who takes jobs and sets nothing up. */
export async function takeQueue(url: string): Promise<PgBoss> {
  const b = new PgBoss({ connectionString: url, max: 2, schema: SCHEMA, ...TAKING })
  b.on('error', e => console.error(`queue: ${e.message}`))
  return b.start()
}

/** Opens the queue once. @param url connection address of the database */
export const openQueue = boss.open
export const closeQueue = boss.close

/**
 * Puts a frame into the queue on a transaction of the same database.
 * @param priority higher ones come first
 */
export async function queueFrame(boss: PgBoss, trx: Knex.Transaction, id: string, priority = 0): Promise<void> {
  const connection = (await trx.client.acquireConnection()) as pg.Client
  const db = { executeSql: (text: string, values: unknown[]) => connection.query(text, values) }
  if ((await boss.send(FRAMES, { id }, { priority, db })) === null)
    throw new Error('The queue did not take the frame.')
}
