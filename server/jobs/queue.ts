/**
 * The queue between the server, which takes in frames, and the workers that compute them: pg-boss in the same
 * database.
 */
import PgBoss from 'pg-boss'
import { once } from '../once'

export const FRAMES = 'frames'
/**
 * A frame that no worker has finished after this is tried again, seconds; a worker that was killed is noticed much
 * earlier, see cli/worker.ts.
 */
const LONGEST = 12 * 3600

const boss = once<PgBoss>(
  async url => {
    const b = new PgBoss({ connectionString: url, max: 2, application_name: 'wavelume-queue' })
    b.on('error', e => console.error(`queue: ${e.message}`))
    await b.start()
    await b.createQueue(FRAMES, { name: FRAMES, retryLimit: 3, expireInSeconds: LONGEST })
    return b
  },
  b => b.stop({ graceful: false, wait: true }),
)

/** Opens the queue once. @param url connection address of the database */
export const openQueue = boss.open
export const closeQueue = boss.close
