import { closeDatabase } from '../database/client'
import { closeQueue } from '../jobs/queue'
import { closeSaves } from '../saves'
import { log } from '../utils/log'
import { untilEnd } from '../utils/streams'

/**
 * When the server is asked to end, requests under way are answered first (Nitro sees to it), then the database is
 * let go.
 */
export default defineNitroPlugin(nitro => {
  for (const signal of ['SIGTERM', 'SIGINT'] as const)
    process.once(signal, () => {
      for (const stream of untilEnd) void stream.close()
    })
  nitro.hooks.hook('close', async () => {
    await closeQueue()
    await closeSaves()
    await closeDatabase()
    log.info('stopped')
  })
})
