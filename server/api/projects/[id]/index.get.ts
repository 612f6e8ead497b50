import { z } from 'zod'
import { MOST_VERSIONS } from '../../../../shared/api'
import { readProject } from '../../../database/projects'

export default defineEventHandler(async event => {
  const query = z
    .object({ version: z.coerce.number().int().min(1).max(MOST_VERSIONS).optional() })
    .safeParse(getQuery(event))
  if (!query.success) throw createError({ statusCode: 400, message: 'A version is a whole number from 1.' })
  const project = await readProject(await useDatabase(), projectId(event), query.data.version)
  if (!project) throw createError({ statusCode: 404, message: 'There is no such project or version.' })
  return project
})
