import { createProjectSchema } from '../../../shared/api'
import { createProject } from '../../database/projects'

export default defineEventHandler(async event => {
  const { name, state } = await bodyOf(event, createProjectSchema)
  setResponseStatus(event, 201)
  return createProject(await useDatabase(), name, state)
})
