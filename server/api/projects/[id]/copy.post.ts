import { copyProject } from '../../../database/projects'

export default defineEventHandler(async event => {
  const copy = await copyProject(await useDatabase(), projectId(event))
  if (!copy) throw createError({ statusCode: 404, message: 'There is no such project.' })
  setResponseStatus(event, 201)
  return copy
})
