import { z } from 'zod'
import { proofEditSchema } from '../../../../../shared/api'
import { editProof } from '../../../../database/proofs'

export default defineEventHandler(async (event) => {
  const id = z.uuid().safeParse(getRouterParam(event, 'proof')), edit = await bodyOf(event, proofEditSchema)
  const proof = id.success ? await editProof(await useDatabase(), projectId(event), id.data, edit) : undefined
  if (!proof) throw createError({ statusCode: 404, message: 'There is no such proof.' })
  return proof
})
