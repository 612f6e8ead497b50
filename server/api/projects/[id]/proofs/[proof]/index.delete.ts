import { removeProof } from '../../../../../database/proofs'

export default defineEventHandler(async event => {
  if (!(await removeProof(await useDatabase(), projectId(event), proofId(event))))
    throw createError({ statusCode: 404, message: NO_PROOF })
  return null
})
