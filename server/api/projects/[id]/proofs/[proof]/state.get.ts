import { proofState } from '../../../../../database/proofs'

export default defineEventHandler(async event => {
  const state = await proofState(await useDatabase(), projectId(event), proofId(event))
  if (!state) throw createError({ statusCode: 404, message: 'There is no such proof with a state.' })
  return state
})
