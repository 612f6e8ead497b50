import { proofSchema } from '../../../../shared/api'
import { keepProof } from '../../../database/proofs'

export default defineEventHandler(async event => {
  const proof = await keepProof(await useDatabase(), projectId(event), await bodyOf(event, proofSchema))
  if (!proof) throw createError({ statusCode: 404, message: 'There is no such project.' })
  setResponseStatus(event, 201)
  return proof
})
