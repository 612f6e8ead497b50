import { log } from '../utils/log'

/**
 * Writes a line for each request to the API and for each error: method, path, status, time. Nothing of what
 * artists wrote.
 */
export default defineNitroPlugin(nitro => {
  nitro.hooks.hook('request', event => {
    event.context.began = performance.now()
  })
  nitro.hooks.hook('afterResponse', event => {
    const path = event.path.split('?')[0]!
    if (!path.startsWith('/api/')) return
    const status = event.node.res.statusCode
    const ms = Math.round(performance.now() - (event.context.began as number))
    log[status >= 500 ? 'error' : status >= 400 ? 'warn' : 'info'](
      { method: event.method, path, status, ms },
      'request',
    )
  })
  nitro.hooks.hook('error', (error, { event }) => {
    const status = (error as { statusCode?: number }).statusCode ?? 500
    if (status >= 500)
      log.error({ path: event?.path.split('?')[0], error: error.message, stack: error.stack }, 'failed')
  })
})
