import { listVersions } from '../../../database/projects'

export default defineEventHandler(async event => listVersions(await useDatabase(), projectId(event)))
