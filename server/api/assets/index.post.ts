import { kept } from '../../shape'
import { assetType, LARGEST_ASSET, putAsset } from '../../database/assets'

export default defineEventHandler(async event => {
  const bytes = await bytesOf(event, LARGEST_ASSET, 'A file may have 256 MiB.')
  if (!bytes.length) throw createError({ statusCode: 400, message: 'The file is empty.' })
  const type = assetType(bytes)
  if (!type)
    throw createError({
      statusCode: 415,
      message: 'The file is neither PNG, JPEG, OpenEXR, Radiance HDR nor binary glTF.',
    })
  const name = kept(String(getQuery(event).name ?? '').slice(0, 200))
  setResponseStatus(event, 201)
  return { hash: await putAsset(await useDatabase(), bytes, type, name), type, size: bytes.length }
})
