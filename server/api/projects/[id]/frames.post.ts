import { frameSchema } from '../../../../shared/api'
import { addFrame } from '../../../database/frames'
import { queueFrame } from '../../../jobs/queue'

export default defineEventHandler(async event => {
  const frame = await bodyOf(event, frameSchema)
  const queue = await useQueue()
  const id = await addFrame(await useDatabase(), projectId(event), frame, (trx, id) => queueFrame(queue, trx, id))
  if (id === undefined) throw createError({ statusCode: 404, message: 'There is no such project.' })
  setResponseStatus(event, 201)
  return { id }
})
