import { listProjects } from '../../database/projects'

export default defineEventHandler(async () => listProjects(await useDatabase()))
