import { retryFrame } from '../../../database/frames'
import { queueFrames } from '../../../jobs/queue'

export default defineEventHandler(async event => {
  const queue = await useQueue()
  const queued = await retryFrame(await useDatabase(), frameId(event), (trx, shares) =>
    queueFrames(queue, trx, shares),
  )
  if (!queued)
    throw createError({ statusCode: 404, message: 'There is no such frame that failed or was stopped.' })
  return { queued }
})
