import { log } from '../utils/log'

/**
 * Whether the server can work: the database answers and its tables are up to date. 503 with the reason otherwise.
 */
export default defineEventHandler(async () => {
  try {
    await (await useDatabase()).raw('select 1')
  } catch (e) {
    log.error({ error: String(e) }, 'database')
    throw createError({ statusCode: 503, message: 'The database does not answer.' })
  }
  return { status: 'ready' }
})
