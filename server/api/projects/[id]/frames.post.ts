import { newFramesSchema } from '../../../../shared/api'
import { framesOf } from '../../../../shared/sequence'
import { addFrames } from '../../../database/frames'
import { queueFrames } from '../../../jobs/queue'

export default defineEventHandler(async event => {
  const { sequence, name, settings, state } = await bodyOf(event, newFramesSchema)
  const frames = sequence
    ? framesOf(sequence, name, settings.camera, state).map(f => ({
        name: f.name,
        settings: { ...settings, camera: f.camera },
        state: f.state,
      }))
    : [{ name, settings, state }]
  const queue = await useQueue()
  const ids = await addFrames(await useDatabase(), projectId(event), frames, (trx, shares) =>
    queueFrames(queue, trx, shares),
  )
  if (ids === undefined) throw createError({ statusCode: 404, message: 'There is no such project.' })
  setResponseStatus(event, 201)
  return { ids }
})
