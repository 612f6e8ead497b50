import { randomUUID } from 'node:crypto'
import { RateLimiterMemory } from 'rate-limiter-flexible'

/**
 * Requests in ten seconds: of one session far above what a hand can cause, of all sessions from one address as many as
 * a studio behind one has; either far below what would stall the others.
 */
const SECONDS = 10
const MOST = { session: { read: 1500, write: 300 }, address: { read: 30_000, write: 6000 } }
const COOKIE = 'wavelume-session'
const limiter = (points: number) => new RateLimiterMemory({ points, duration: SECONDS })
const session = { read: limiter(MOST.session.read), write: limiter(MOST.session.write) }
const address = { read: limiter(MOST.address.read), write: limiter(MOST.address.write) }

/** Gives each browser a session of its own, and bounds what each asks. */
export default defineEventHandler(async event => {
  const known = getCookie(event, COOKIE)
  if (!event.path.startsWith('/api/')) {
    if (known === undefined)
      setCookie(event, COOKIE, randomUUID(), { httpOnly: true, sameSite: 'strict', path: '/' })
    return
  }
  const from = event.node.req.socket.remoteAddress ?? ''
  const act = event.method === 'GET' ? 'read' : 'write'
  try {
    await address[act].consume(from)
    await session[act].consume(known?.slice(0, 64) ?? from)
  } catch {
    setResponseHeader(event, 'Retry-After', SECONDS)
    throw createError({ statusCode: 429, message: 'Too many requests at once. Try again in ten seconds.' })
  }
})
