import { setDeleted } from '../../../database/projects'

export default defineEventHandler(async event => {
  if (!(await setDeleted(await useDatabase(), projectId(event), false)))
    throw createError({ statusCode: 404, message: 'There is no such project.' })
  return { deleted: false }
})
