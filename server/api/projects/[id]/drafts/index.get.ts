import { listDrafts } from '../../../../database/drafts'

export default defineEventHandler(async event => listDrafts(await useDatabase(), projectId(event)))
