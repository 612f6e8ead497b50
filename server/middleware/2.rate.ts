import { RateLimiterMemory } from 'rate-limiter-flexible'

/**
 * Requests one address may make in ten seconds: far above what a hand can cause, far below what would stall the
 * others.
 */
const reading = new RateLimiterMemory({ points: 1500, duration: 10 })
const writing = new RateLimiterMemory({ points: 300, duration: 10 })

export default defineEventHandler(async event => {
  if (!event.path.startsWith('/api/')) return
  const address = event.node.req.socket.remoteAddress ?? ''
  try {
    await (event.method === 'GET' ? reading : writing).consume(address)
  } catch {
    setResponseHeader(event, 'Retry-After', 10)
    throw createError({ statusCode: 429, message: 'Too many requests at once. Try again in ten seconds.' })
  }
})
