import { frameAsProof } from '../../../database/frames'
import { keepProof } from '../../../database/proofs'

export default defineEventHandler(async event => {
  const db = await useDatabase()
  const frame = await frameAsProof(db, frameId(event))
  const proof = frame && (await keepProof(db, frame.project, frame.proof))
  if (!proof) throw createError({ statusCode: 404, message: 'There is no such frame that is done.' })
  setResponseStatus(event, 201)
  return proof
})
