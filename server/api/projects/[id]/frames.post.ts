import { frameSchema } from '../../../../shared/api'
import { addFrame } from '../../../database/frames'
import { FRAMES } from '../../../jobs/queue'

export default defineEventHandler(async event => {
  const frame = await bodyOf(event, frameSchema)
  const id = await addFrame(await useDatabase(), projectId(event), frame)
  if (id === undefined) throw createError({ statusCode: 404, message: 'There is no such project.' })
  await (await useQueue()).send(FRAMES, { id })
  setResponseStatus(event, 201)
  return { id }
})
