import { z } from 'zod'
import { removeProof } from '../../../../database/proofs'

export default defineEventHandler(async (event) => {
  const id = z.uuid().safeParse(getRouterParam(event, 'proof'))
  if (!id.success || !await removeProof(await useDatabase(), projectId(event), id.data)) throw createError({ statusCode: 404, message: 'There is no such proof.' })
  return null
})
