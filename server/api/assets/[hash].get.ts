import { hashSchema } from '../../../shared/api'
import { getAsset } from '../../database/assets'

export default defineEventHandler(async event => {
  const hash = hashSchema.safeParse(getRouterParam(event, 'hash'))
  const asset = hash.success ? await getAsset(await useDatabase(), hash.data) : undefined
  if (!asset) throw createError({ statusCode: 404, message: 'There is no such file.' })
  setResponseHeaders(event, {
    'Content-Type': asset.type,
    'Cache-Control': 'private, max-age=31536000, immutable',
    'Content-Security-Policy': "default-src 'none'; sandbox",
  })
  return asset.bytes
})
