import { removeFrame } from '../../../database/frames'

export default defineEventHandler(async event => {
  if (!(await removeFrame(await useDatabase(), frameId(event))))
    throw createError({ statusCode: 404, message: NO_FRAME })
  setResponseStatus(event, 204)
  return null
})
