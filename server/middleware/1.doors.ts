import { hostNames, refusalOf } from '../doors'

const known = hostNames(process.env.WAVELUME_HOSTS)

/** Refuses what comes under a foreign name or from foreign pages, before anything else looks at it. */
export default defineEventHandler(event => {
  const refusal = refusalOf(
    { method: event.method, path: event.path, header: name => getRequestHeader(event, name) },
    known,
  )
  if (refusal) throw createError({ statusCode: refusal.status, message: refusal.message })
})
