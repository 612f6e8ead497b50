import { assetType, LARGEST_ASSET, putAsset } from '../../database/assets'

export default defineEventHandler(async (event) => {
  if (Number(getRequestHeader(event, 'content-length') ?? 0) > LARGEST_ASSET) throw createError({ statusCode: 413, message: 'A file may have 256 MiB.' })
  const bytes = await readRawBody(event, false)
  if (!bytes?.length) throw createError({ statusCode: 400, message: 'The file is empty.' })
  const type = assetType(bytes)
  if (!type) throw createError({ statusCode: 415, message: 'The file is neither PNG, JPEG, OpenEXR, Radiance HDR nor binary glTF.' })
  const name = String(getQuery(event).name ?? '').slice(0, 200)
  setResponseStatus(event, 201)
  return { hash: await putAsset(await useDatabase(), bytes, type, name), type, size: bytes.length }
})
