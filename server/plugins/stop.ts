import { closeDatabase } from '../database/client'
import { closeQueue } from '../jobs/queue'
import { log } from '../utils/log'

/**
 * When the server is asked to end, requests under way are answered first (Nitro sees to it), then the database is
 * let go.
 */
export default defineNitroPlugin(nitro => {
  nitro.hooks.hook('close', async () => {
    await closeQueue()
    await closeDatabase()
    log.info('stopped')
  })
})
