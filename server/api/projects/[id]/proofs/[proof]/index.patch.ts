import { proofEditSchema } from '../../../../../../shared/api'
import { editProof } from '../../../../../database/proofs'

export default defineEventHandler(async event => {
  const proof = await editProof(
    await useDatabase(),
    projectId(event),
    proofId(event),
    await bodyOf(event, proofEditSchema),
  )
  if (!proof) throw createError({ statusCode: 404, message: NO_PROOF })
  return proof
})
