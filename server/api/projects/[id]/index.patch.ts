import { renameSchema } from '../../../../shared/api'
import { renameProject } from '../../../database/projects'

export default defineEventHandler(async event => {
  const { name } = await bodyOf(event, renameSchema)
  if (!(await renameProject(await useDatabase(), projectId(event), name)))
    throw createError({ statusCode: 404, message: 'There is no such project.' })
  return { name }
})
