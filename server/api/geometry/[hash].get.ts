import { z } from 'zod'
import { hashSchema, MOST_VERSIONS } from '../../../shared/api'
import { getGeometry } from '../../database/geometries'

/**
 * Geometry of a model as it was built when the project was made; 204 where there is none, and the page builds it.
 */
export default defineEventHandler(async event => {
  const hash = hashSchema.safeParse(getRouterParam(event, 'hash'))
  const version = z.coerce.number().int().min(0).max(MOST_VERSIONS).safeParse(getQuery(event).version)
  if (!hash.success || !version.success)
    throw createError({
      statusCode: 400,
      message: 'A geometry is asked for by the hash of its model and the version of its layout.',
    })
  const bytes = await getGeometry(await useDatabase(), hash.data, version.data)
  if (!bytes) {
    setResponseStatus(event, 204)
    return null
  }
  setResponseHeaders(event, { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'no-store' })
  return bytes
})
