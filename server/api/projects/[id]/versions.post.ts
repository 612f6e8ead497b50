import { saveSchema } from '../../../../shared/api'
import { saveVersion } from '../../../database/projects'

export default defineEventHandler(async event => {
  const { base, note, thumbnail, state } = await bodyOf(event, saveSchema)
  const result = await saveVersion(await useDatabase(), projectId(event), base, state, note, thumbnail)
  if (!result) throw createError({ statusCode: 404, message: 'There is no such project.' })
  setResponseStatus(event, 'conflict' in result ? 409 : 201)
  return result
})
